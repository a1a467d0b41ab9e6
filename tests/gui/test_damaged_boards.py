"""Projects whose boards and room have figures changed at random: each is refused in a sentence, or planned and drawn."""

import os
import random
import re

from nullah import demo
from nullah.core.document.project import Month
from nullah.core.edits import edit
from nullah.core.edits.board_said import said
from nullah.core.wood.room import USUAL
from nullah.formats import project_file
from nullah.formats.trouble import FileTrouble

FIGURES = ("0", "1", "-1", "1e308", "1e-308", "99999", "0.001", "60", "100", "20000", "182", "13")
SEEN = (
    "loose knot at 600, 50, 40 x 30, 3 under the face",
    "run-out at 200, 50, 120 x 60, 12 deg",
    "upper edge 0, 182; 900, 150",
    "lower edge 0, 10; 90, 0",
    "rings 35 heart face pith lower, 100 away",
)


def well_read():
    project = demo.box()
    for words in SEEN:
        project = said(project, "board 1", words, "2026-01-01")[0]
    months = tuple(Month(celsius=c, humidity=h) for c, h in USUAL["heated"])
    return edit.held(project, room=edit.held(project.room, months=months))


def damaged(text, rng):
    """The text with one to four figures of its boards or its room changed."""
    for _ in range(rng.randint(1, 4)):
        low, high = rng.choice([('"boards"', '"readings"'), ('"room"', '"kit"')])
        low, high = text.index(low), text.index(high)
        found = rng.choice(list(re.finditer(r"-?\d+\.?\d*(?:e-?\d+)?", text[low:high])))
        text = text[: low + found.start()] + rng.choice(FIGURES) + text[low + found.end() :]
    return text


def press_hard(hand, seeds):
    text, read = project_file.dumps(well_read()), 0
    hand.go("timber")
    for seed in seeds:
        try:
            project = project_file.loads(damaged(text, random.Random(seed)), "damaged")
        except FileTrouble as trouble:
            assert str(trouble).endswith(".")
            continue
        read += 1
        hand.session.replace(project, None)
        for station in ("timber", "breakdown", "bench") if seed % 5 == 0 else ("timber",):
            hand.window.go(station)
            if station == "timber":
                hand.window.view().turn_over()
            hand.window.grab()
    return read


def test_soak_damaged_boards_are_refused_or_drawn(demo_hand):
    many = 1500 if os.environ.get("NULLAH_SOAK") else 40
    assert press_hard(demo_hand, range(many)) > many / 10
