"""How the hand goes about dovetails: which half is first, how they are set out, how the waste comes out. No line of the joint goes by
it, only what tools are set to and the order of the work.

Dividers, a rule or the eye: common practice, no source.
"""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

from nullah.core.marking.family import School
from nullah.core.marking.plan import ROOM, Found, Setting, counted
from nullah.core.values.ask import Ask
from nullah.core.values.frozen import frozen
from nullah.core.values.measure import marked

if TYPE_CHECKING:
    from nullah.core.joints.dovetail import Dovetail

FIRST = Ask("first", "which half is cut first", "choice", "tails", options=("tails", "pins"))
SET_OUT = Ask("set_out", "how tails and pins are set out", "choice", "dividers", options=("dividers", "rule", "eye"))
WASTE = Ask("waste", "how the waste comes out", "choice", "coping saw", options=("coping saw", "chisel"))

TAILS_OR_PINS = School(
    "first",
    "Are the tails cut first, or the pins?",
    "boards are ganged and sawn as one, and a slope that is off does not matter",
    "Pins first are easier to trace on wide boards; either half makes a sound corner.",
    spoken="{} first",
    told={"tails": "the pins are traced from the tails", "pins": "the tails are traced from the pins"}.__getitem__,
)
SETTING_OUT = School(
    "set_out",
    "Are tails set out with dividers, with a rule, or by eye?",
    "dividers step them alike without a figure read off, and what is off shows at the far line",
    "With a rule left in one place no error adds up; by eye is quickest and looks made by hand. The mate is traced and fits.",
    spoken="by {}",
    told={
        "dividers": "one setting steps them all",
        "rule": "the middles of the pins are read off one after the other",
        "eye": "nothing is set but the half pins",
    }.__getitem__,
)
COPING_OR_CHOPPING = School(
    "waste",
    "Does the waste come out by coping saw and chisel, or by chisel alone?",
    "less is chopped, and less bruised on the far face",
    "By chisel alone there is one tool less to set, and the baseline is never sawn into; it takes longer.",
    told={
        "coping saw": "most of it drops out, a thin strip is pared",
        "chisel": "all of it is chopped, from both faces",
    }.__getitem__,
)

SLOPES = School(
    "slope",
    "Do the tails slope as the wood has it, or by taste?",
    "soft wood is crushed at a shallow slope, hard wood breaks off at a steep one: 1 : 6 to 1 : 8",
    "Many cut all wood to one slope, by the bevel they have; anything from 1 : 5 to 1 : 10 holds.",
    ("6", "7", "8"),
    lambda wood: f"{wood.slope:g}",
    "1 : {}",
    lambda way: f"{math.degrees(math.atan(1 / float(way))):.1f} degrees off square",
)

_DIVIDERS = "step the dividers from each half-pin line"
_PINS = "Mark the pins on the end of the pin board: narrow"
_COPING = "coping saw out the waste near the line"
BY_EYE = "set the rest out between them by eye, in pencil, and look again from a step away before the knife"
ORDER_TAILS_FIRST = (
    "Test both ends square; every gauge line inherits their error.",
    "Gauge the baselines: all round the tail board, on the two faces of the pin board.",
    "Mark the outside faces and which edge is the reference.",
    f"Mark the half pins; {_DIVIDERS}.",
    "Square the marks across the end; bevel them down to the baseline. Mark the waste.",
    "Saw the lines of one slope together, beside the line, on the waste; then the other slope.",
    f"Notch the half pins at the baseline, saw the shoulders; {_COPING}.",
    "Chop to the baseline half from each face, the last cut in the gauge line, a slight undercut.",
    "Trace onto the pin board: its end under the tails, baseline on its inside face, reference edges flush.",
    "Square down, mark the waste, saw beside the line; chop, leaning the chisel on the second face.",
    "Try by hand pressure; pare only the shiny marks. Do not close the joint fully twice.",
)
ORDER_PINS_FIRST = (
    *ORDER_TAILS_FIRST[:3],
    f"{_PINS} on the outside, bevelled on the end, squared down both faces.",
    "Mark the waste; saw beside the line, plumb; coping saw and chop to the baseline from both faces.",
    "Stand the pin board on the tail board's inside face at the baseline; trace round the pins.",
    "Square across the end, mark the waste, saw beside the line; chop to the baseline half from each face.",
    ORDER_TAILS_FIRST[-1],
)


@frozen
class Ways:
    """The ways taken: ``first`` is ``tails`` or ``pins``; ``set_out`` ``dividers``, ``rule`` or ``eye``; ``waste`` ``coping saw`` or
    ``chisel``. ``order``: the order of the work by dividers and coping saw, where it is not that of a through corner.
    ``rise``: how far above the lower edge of the board that is laid out first the joint begins, mm."""

    first: str = "tails"
    set_out: str = "dividers"
    waste: str = "coping saw"
    order: tuple[str, ...] = ()
    rise: float = 0.0

    @property
    def pins_first(self) -> bool:
        """Whether the tails are traced from the pins."""
        return self.first == "pins"

    def steps(self, joint: Dovetail) -> tuple[str, ...]:
        """The order of the work."""
        said = {}
        if joint.tails == 1:
            alone = "what lies between them is the tail"
            said = {
                _DIVIDERS: alone,
                _PINS: f"Mark the half pins on the end of the pin board; {alone}. Pins are narrow",
            }
        elif self.set_out != "dividers":
            so = _by_rule(joint, self.rise) if self.set_out == "rule" else BY_EYE
            said = {_DIVIDERS: so, _PINS: f"Mark the half pins on the end of the pin board; {so}. Pins are narrow"}
        if self.waste == "chisel":
            said |= {
                _COPING: "leave the waste in",
                "coping saw and chop to the baseline": "chop to the baseline in slices",
                "Chop to the baseline half": "Chop the waste out in slices to the baseline, half",
            }
        found = []
        for words in self.order or (ORDER_PINS_FIRST if self.pins_first else ORDER_TAILS_FIRST):
            for usual, so in said.items():
                words = words.replace(usual, so)
            found.append(words)
        return tuple(found)

    def lengths(self, joint: Dovetail, tail_part: str, pin_part: str) -> tuple[Found, ...]:
        """The figures in the order of the work that no setting is set to."""
        if self.set_out != "rule" or joint.tails == 1:
            return ()
        mine = pin_part if self.pins_first else tail_part
        middles = [Found(mm, mine, "lower edge", "middle of a pin") for mm in _middles(joint, self.rise)]
        return (*middles, Found(joint.pin / 2, mine, ROOM, "half a pin"))

    def settings(self, joint: Dovetail, tail_part: str, pin_part: str, tail_line: float) -> tuple[Setting, ...]:
        """What is stepped, measured and bevelled on the board that is laid out first; the other is traced from it. Where the tails are
        shorter (``tail_line``) than the pin board is thick, the pins are as wide on its outside face as they come out there."""
        off = max(0.0, joint.mating - tail_line) / joint.run if self.pins_first else 0.0
        mine = (pin_part,) if self.pins_first else (tail_part,)
        count = counted(joint.tails - 1, "pin") if self.pins_first else counted(joint.tails, "tail")
        where = "on the end at the outside face" if self.pins_first else "at the end"
        stepped = Setting("dividers", joint.step, "", mine, f"{count} from each half-pin line")
        half = Setting("rule", joint.half_pin - off, "", mine, f"half pin, {where}")
        pin = Setting("rule", joint.pin - 2 * off, "", mine, f"pin, {where}")
        if self.set_out == "rule":
            stepped = Setting("rule", joint.step, "", mine, "middle to middle of the pins")
        found = [] if self.set_out == "eye" or joint.tails == 1 else [stepped]
        found.append(half)
        if joint.tails > 1 and (self.pins_first or self.set_out == "rule"):
            found.append(pin)
        bevel = "slope of the pins, on the end" if self.pins_first else "slope of tails and pins"
        parts = mine if self.pins_first else (tail_part, pin_part)
        return (*found, Setting("bevel", None, f"1 : {joint.run:g}", parts, bevel))


def _middles(joint: Dovetail, rise: float) -> list[float]:
    """The middles of the pins from the reference edge, ``rise`` below the joint, mm."""
    return [rise + joint.half_pin + n * joint.step - joint.pin / 2 for n in range(1, joint.tails)]


def _by_rule(joint: Dovetail, rise: float) -> str:
    """What is said of the middles of the pins, from the reference edge."""
    return (
        "with the rule left lying at the reference edge, mark the middles of the pins at "
        f"{', '.join(map(marked, _middles(joint, rise)))}; "
        f"half a pin, {marked(joint.pin / 2)}, to either side"
    )
