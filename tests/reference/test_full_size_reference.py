"""The printed template, read back from the PDF by a general-purpose PDF library: is it at full size?

PDF user space is 1/72 inch and an inch is 25.4 mm: ISO 32000-1, 8.3.2.3, from memory.
"""

import io

import pytest
from pypdf import PdfReader
from pypdf.generic import ContentStream

from nullah import demo
from nullah.core.edits import edit, measuring
from nullah.core.pieces.box_joints import corner_layout, corners
from nullah.core.planning.plan import plan
from nullah.formats import template

POINT = 25.4 / 72
CLOSE = 0.05  # mm


def straight_lines(page, reader):
    """Every straight line of a page in mm: ((x, y), (x, y)), through the transformations in force."""
    state, stack, at, found = (1, 0, 0, 1, 0, 0), [], None, []
    for operands, operator in ContentStream(page.get_contents(), reader).operations:
        n = [float(o) for o in operands if isinstance(o, int | float)]
        if operator == b"q":
            stack.append(state)
        elif operator == b"Q":
            state = stack.pop()
        elif operator == b"cm":
            a, b, c, d, e, f = state
            g, h, i, j, k, m = n
            state = (a * g + c * h, b * g + d * h, a * i + c * j, b * i + d * j, a * k + c * m + e, b * k + d * m + f)
        elif operator in (b"m", b"l"):
            a, b, c, d, e, f = state
            here = ((a * n[0] + c * n[1] + e) * POINT, (b * n[0] + d * n[1] + f) * POINT)
            if operator == b"l":
                found.append((at, here))
            at = here
    return found


def pages(project, letter=False):
    reader = PdfReader(io.BytesIO(template.pdf(plan(project), letter)))
    return [(page.extract_text(), straight_lines(page, reader)) for page in reader.pages]


def is_there(lines, a, b, origin):
    """Whether a line from a to b (mm, the template's axes) is drawn, either way round."""
    wanted = [(p[0] + origin[0], p[1] + origin[1]) for p in (a, b)]

    def near(p, q):
        return abs(p[0] - q[0]) < CLOSE and abs(p[1] - q[1]) < CLOSE

    return any(
        (near(p, wanted[0]) and near(q, wanted[1])) or (near(p, wanted[1]) and near(q, wanted[0])) for p, q in lines
    )


def thinner(project):
    parts = plan(project).piece.parts
    return measuring.measured(measuring.measured(project, parts, "A thickness 17.4"), parts, "B thickness 17.83")


@pytest.mark.parametrize("letter", [False, True], ids=["A4", "Letter"])
def test_tails_pins_and_check_lines_are_at_full_size(letter):
    project = thinner(demo.box())
    now = plan(project)
    name, tail, pin, width = corners(now.piece.in_hand.own.box)[0]
    joint = corner_layout(project.piece, now.piece.in_hand.own.box, tail, pin, width)
    made = pages(project, letter)
    lines = next(lines for words, lines in made if f"corner {name}" in words)
    baseline = [(p, q) for p, q in lines if abs(p[0] - q[0]) < 1e-3 and abs(abs(p[1] - q[1]) - joint.width) < CLOSE]
    lows = sorted({round(min(p[1], q[1]), 2) for p, q in baseline})
    lefts = sorted(p[0] for p, _ in baseline)
    origin = (lefts[1], lows[0])  # far side, fold, baseline: the fold is x = 0
    assert lefts[0] == pytest.approx(origin[0] - joint.own, abs=CLOSE)
    assert lefts[2] == pytest.approx(origin[0] + joint.mating, abs=CLOSE)
    for (low, high), (low_base, high_base) in zip(joint.tails_at_end(), joint.tails_at_baseline(), strict=True):
        assert is_there(lines, (0, low), (joint.mating, low_base), origin)
        assert is_there(lines, (0, high), (joint.mating, high_base), origin)
        assert is_there(lines, (-joint.own, high), (0, high), origin)
    for words, found in made:
        assert "100 %" in words
        lengths = [abs(p[0] - q[0]) for p, q in found if abs(p[1] - q[1]) < 1e-6]
        for check in (100.0, 4 * 25.4):
            assert any(abs(one - check) < CLOSE for one in lengths)


def test_a_story_stick_longer_than_the_paper_runs_on_over_the_overlap():
    project = edit.set_piece(demo.box(), "extra_length", 400.0)
    now = plan(project)
    box = now.piece.in_hand.own.box
    marks = [0.0, box.thickness["D"], *(c - box.divider_thickness / 2 for c in box.dado_centres), box.outside[0]]
    tiles = [lines for words, lines in pages(project) if "stick, length" in words]
    assert len(tiles) >= 3
    shift = template.OVERLAP - (297 - 2 * template.MARGIN)  # each tile begins where the last ends, less what they share
    first = template.MARGIN + template.AIR
    seen = set()
    for i, lines in enumerate(tiles):
        upright = [p[0] for p, q in lines if abs(p[0] - q[0]) < 1e-6 and abs(abs(p[1] - q[1]) - 30) < CLOSE]
        for mark in marks:
            at = first + mark + i * shift
            if template.MARGIN <= at <= 297 - template.MARGIN:
                assert any(abs(x - at) < CLOSE for x in upright), (mark, i)
                seen.add(mark)
    assert seen == set(marks)


def expected_tails(width, half_pin, pin, tails, run, baseline):
    """The slanted lines of a tail board by the dividers method: each tail's two sides from the end to the baseline."""
    step = (width - 2 * half_pin + pin) / tails
    out = []
    for i in range(tails):
        low = half_pin + i * step
        high = low + step - pin
        out += [((0, low), (baseline, low + baseline / run)), ((0, high), (baseline, high - baseline / run))]
    return out


@pytest.mark.parametrize(("way", "over"), [("flush", 0.0), ("proud", 0.3), ("under", -0.3)])
def test_every_slanted_line_is_a_tail_s_and_runs_to_the_baseline_as_gauged(way, over):
    """Nothing is drawn beside what the dividers give, and proud of the mate the slopes run on."""
    project = thinner(demo.box())
    project = edit.take(project, plan(project).call("baseline"), way)
    box = plan(project).piece.in_hand.own.box
    baseline, own, width = 17.83 + over, 17.4, box.part("B").width
    made = pages(project)
    lines = next(found for words, found in made if "corner A-B" in words)
    upright = sorted(
        {round(p[0], 3) for p, q in lines if abs(p[0] - q[0]) < 1e-3 and abs(abs(p[1] - q[1]) - width) < CLOSE}
    )
    far, fold, base = upright[:3]
    assert fold - far == pytest.approx(own, abs=CLOSE)
    assert base - fold == pytest.approx(baseline, abs=CLOSE)
    low = min(min(p[1], q[1]) for p, q in lines if abs(p[0] - q[0]) < 1e-3 and abs(p[0] - fold) < 1e-2)
    wanted = expected_tails(width, box.half_pin, project.piece.pin, 5, box.run, baseline)
    slanted = [
        (p, q)
        for p, q in lines
        if abs(p[1] - q[1]) > 0.3 and {round(p[0], 2), round(q[0], 2)} == {round(fold, 2), round(base, 2)}
    ]
    assert len(slanted) >= len(wanted)
    for p, q in slanted:
        a, b = sorted((p, q))
        here = ((0, a[1] - low), (baseline, b[1] - low))
        assert any(
            abs(here[i][1] - w[i][1]) < CLOSE for w in wanted for i in (0,) if abs(here[1][1] - w[1][1]) < CLOSE
        ), here
    for a, b in wanted:
        assert is_there(slanted, a, b, (fold, low))


def test_story_sticks_have_every_mark_where_the_sizes_put_it():
    """Width and height: outside sizes, walls, grooves, worked out from what was measured and asked."""
    project = thinner(demo.box())
    box, piece = plan(project).piece.in_hand.own.box, project.piece
    _, width, height = box.outside
    edge, lid_edge = 12.0, 12.0
    marks = {
        "width": [0.0, 17.4, width - 18.0, width],
        "height": [0.0, edge, edge + 7.0, height - lid_edge - 8.0, height - lid_edge, height],
    }
    assert width == pytest.approx(84 + 2 * 3 + 2 * 18)  # the outside is held though A is thinner
    assert height == pytest.approx(12 + 7 + 112 + 3 + 8 + 12)
    sticks = {}  # by page and by where they lie on it
    for n, (words, lines) in enumerate(pages(project)):
        for p, q in lines:
            if "Story stick" in words and abs(p[0] - q[0]) < 1e-3 and abs(abs(p[1] - q[1]) - 30.0) < CLOSE:
                sticks.setdefault((n, round(min(p[1], q[1]), 1)), set()).add(round(p[0], 2))
    for wanted in marks.values():
        for found in sticks.values():
            at = sorted(x - min(found) for x in found)
            if len(at) == len(wanted) and all(abs(x - m) < CLOSE for x, m in zip(at, wanted, strict=True)):
                break
        else:
            raise AssertionError(f"no stick has its marks at {wanted}: {sticks}")
    assert piece.lid == "sliding"
