"""Through dovetails by the dividers method.

Board W, half pin h, N tails, pin p wide at the end of the tail board: step s = (W - 2h + p) / N, tails s - p. Step N times
from each half-pin line; the overshoot past the far line is the pin. Source: common practice, no source.
"""

from __future__ import annotations

import math
from functools import cached_property

from nullah.core.drawing.display_list import Area, Dimension, Drawing, Handle, Line, Point, Primitive, Text, rectangle
from nullah.core.joints.dovetail_ways import Ways
from nullah.core.marking.plan import Check, JointPlan, Mend, Setting, counted, drawn_face
from nullah.core.shapes.cut import Cut
from nullah.core.values.frozen import frozen, replace
from nullah.core.values.measure import at_least, marked

THINNEST_PIN = 3.0  # mm; a finer one breaks in the tracing (common practice)
THINNEST_NECK = 3.0  # mm of a tail at the baseline; a finer one breaks off in the chopping (common practice)
CHISEL_ROOM = 0.5  # mm a chisel has to spare in a socket (common practice)
STRONG = (2.0, 4.0)  # tails this many pins wide keep strength (common practice)
FINE_PIN, COMMON = 6.0, 7.0  # mm of a pin that any chisel serves, and a slope that serves all woods (common practice)
SHALLOWEST, STEEPEST = 10.0, 5.0  # 1:10 slips, 1:5 leaves weak short grain (common practice)


class NoDovetail(ValueError):
    """Sizes that leave no room for the tails; the message says which to change."""


@frozen
class Dovetail:
    """One corner, laid out. All mm; ``run`` is the slope's run for a rise of one.

    Positions run across the tail board from the reference (lower) edge, at its end, on its face.
    """

    width: float
    tails: int
    pin: float
    half_pin: float
    run: float
    mating: float  # the pin board's thickness: how long the tails are
    own: float  # the tail board's thickness: how long the pins are

    @cached_property
    def step(self) -> float:
        """What the dividers are set to."""
        return (self.width - 2 * self.half_pin + self.pin) / self.tails

    @property
    def tail(self) -> float:
        """A tail's width at the end, where it is widest."""
        return self.step - self.pin

    @property
    def slope_deg(self) -> float:
        """Slope off square, degrees."""
        return math.degrees(math.atan(1 / self.run))

    @property
    def socket_base(self) -> float:
        """A socket's width at the baseline of the tail board: p + 2 x length x slope."""
        return self.pin + 2 * self.mating / self.run

    @property
    def tail_base(self) -> float:
        """A tail's width at the baseline, where it is narrowest."""
        return self.tail - 2 * self.mating / self.run

    def tails_at_end(self) -> tuple[tuple[float, float], ...]:
        """(lower, upper) of each tail at the end of the board."""
        return tuple(
            (self.half_pin + i * self.step, self.half_pin + i * self.step + self.tail) for i in range(self.tails)
        )

    def tails_at_baseline(self) -> tuple[tuple[float, float], ...]:
        """(lower, upper) of each tail at the baseline."""
        in_by = self.mating / self.run
        return tuple((lower + in_by, upper - in_by) for lower, upper in self.tails_at_end())

    def pins_at_mouth(self) -> tuple[tuple[float, float], ...]:
        """(lower, upper) of each pin where it is narrowest, half pins among them."""
        marks = [0.0]
        for lower, upper in self.tails_at_end():
            marks += [lower, upper]
        marks.append(self.width)
        return tuple((marks[i], marks[i + 1]) for i in range(0, len(marks), 2))


def lay_out(
    width: float, tails: int, pin: float, half_pin: float, run: float, mating: float, own: float | None = None
) -> Dovetail:
    """A corner laid out by dividers; ``own`` is the tail board's thickness, the mating board's when not given.

    Raises:
        NoDovetail: a size is not more than zero, or the tails come out with no width at the baseline.
    """
    named = {"width": width, "pin": pin, "half pin": half_pin, "slope": run, "mating thickness": mating}
    for name, value in named.items():
        if not math.isfinite(value) or value <= 0:
            raise NoDovetail(f"The {name} must be more than zero; it is {marked(value)}.")
    if tails < 1:
        raise NoDovetail("A dovetailed corner has one tail or more.")
    joint = Dovetail(width, tails, pin, half_pin, run, mating, mating if own is None else own)
    if joint.tail_base <= 0:
        raise NoDovetail(
            f"{counted(tails, 'tail')} with pins of {marked(pin)} leave {marked(joint.tail_base, unit=' mm')} of tail "
            f"at the baseline on {marked(width, unit=' mm')}; "
            "take fewer tails, finer pins or a smaller half pin."
        )
    return joint


def suited_tails(width: float, half_pin: float, pin: float) -> int:
    """The fewest tails that are each no wider than four pins at the end, 1 or more."""
    return max(1, math.ceil((width - 2 * half_pin + pin) / ((STRONG[1] + 1) * pin) - 1e-9))


def groove_place(joint: Dovetail, lower: float, upper: float) -> str:
    """Where a groove from ``lower`` to ``upper`` (mm from the reference edge) meets the corner.

    ``inside a tail`` when it lies within one tail over its whole length, ``inside a pin`` when within one pin or half pin
    where that is narrowest, else ``across a line``. Inside a tail it is ploughed through in the pin boards and stopped in
    the tail boards; inside a pin the reverse; across a line it shows on both.
    """
    if any(a <= lower and upper <= b for a, b in joint.tails_at_baseline()):
        return "inside a tail"
    if any(a <= lower and upper <= b for a, b in joint.pins_at_mouth()):
        return "inside a pin"
    return "across a line"


def slope_check(run: float) -> Check:
    """Whether a slope of 1 to so many holds and is not weak; the common one is the way out."""
    words = f"slope 1 : {run:g}; between 1 : {STEEPEST:g} and 1 : {SHALLOWEST:g}"
    mend = Mend("slope", COMMON, f"slope 1 : {COMMON:g}")
    return Check(STEEPEST - 1e-9 <= run <= SHALLOWEST + 1e-9, words, mend)


def checks(joint: Dovetail, chisels: tuple[float, ...]) -> tuple[Check, ...]:
    """What to hold before cutting: pins and tails sound, and a chisel at hand that enters the socket with room."""
    ratio = joint.tail / joint.pin
    entering = [c for c in chisels if at_least(joint.socket_base - CHISEL_ROOM, c)]
    chisel = f"the {marked(max(entering), unit=' mm')} chisel goes in" if entering else "no chisel at hand goes in"
    single = joint.tails == 1  # which has half pins alone
    found = [
        Check(
            at_least(joint.pin, THINNEST_PIN),
            f"pins {marked(joint.pin)} at the mouth; at least {marked(THINNEST_PIN)}",
            Mend("pin", FINE_PIN, f"pins of {marked(FINE_PIN)}"),
        ),
        Check(
            at_least(joint.tail_base, THINNEST_NECK),
            f"tails {marked(joint.tail_base)} at the neck; at least {marked(THINNEST_NECK)}",
        ),
        Check(
            STRONG[0] - 0.05 <= ratio <= STRONG[1] + 0.05,
            f"tails {marked(joint.tail)}, {ratio:.1f} pins wide; 2 to 4 for strength",
        ),
        Check(bool(entering), f"socket {marked(joint.socket_base)} at the baseline: {chisel} with room"),
    ]
    return (
        *(found[1:2] if single else found),
        Check(
            STEEPEST - 1e-9 <= joint.run <= SHALLOWEST + 1e-9,
            f"slope 1 : {joint.run:g}, {joint.slope_deg:.1f} degrees off square",
            Mend("slope", COMMON, f"slope 1 : {COMMON:g}"),
        ),
        Check(
            at_least(joint.half_pin, joint.mating / 4),
            f"half pin {marked(joint.half_pin)} beside {marked(joint.mating)} stock; about half the thickness",
        ),
    )


def plan(
    corner: str,
    tail_part: str,
    pin_part: str,
    joint: Dovetail,
    baselines: tuple[float, float],
    chisels: tuple[float, ...],
    ways: Ways,
    slot: float,
    ends: tuple[str, str],
    length: float,
) -> JointPlan:
    """The whole joint for one corner.

    Args:
        corner: its name, as ``A-B``.
        baselines: how far from the end they are gauged on the tail board and on the pin board, mm: the mate's thickness, or more where
            ends are to stand proud and be planed flush.
        ways: how the hand goes about it.
        slot: mm of spare board beyond the joint on the tail board (above a lowered end), 0 when none.
        ends: the ends of tail board and pin board that meet, each "left" or "right" as one looks at its outside face.
        length: of the tail board, mm.
    """
    tail_line, pin_line = baselines
    settings = (
        Setting("marking gauge", tail_line, "", (tail_part,), f"baseline at {pin_part}"),
        Setting("marking gauge", pin_line, "", (pin_part,), f"baseline at {tail_part}"),
        *ways.settings(joint, tail_part, pin_part, tail_line),
    )
    tails = tail_face(joint, tail_part, tail_line, slot, ways.set_out)
    return JointPlan(
        id=f"corner {corner}",
        family="through_dovetail",
        name=f"Corner {corner}: {counted(joint.tails, 'tail')} on {tail_part}, pins on {pin_part}",
        parts=(tail_part, pin_part),
        settings=settings,
        steps=ways.steps(joint),
        checks=checks(joint, chisels),
        faces=(
            drawn_face(tail_part, f"{tail_part}, outside face", of_joint(tails, f"corner {corner}")),
            drawn_face(pin_part, f"{pin_part}, end and outside face", pin_face(joint, pin_part, pin_line)),
        ),
        tails=joint.tails,
        lengths=ways.lengths(joint, tail_part, pin_part),
        figures={
            "tails": joint.tails,
            "pin": joint.pin,
            "half pin": joint.half_pin,
            "slope": joint.run,
            "width": joint.width,
            f"baseline on {tail_part}": tail_line,
            f"baseline on {pin_part}": pin_line,
        },
        cuts=(
            *_socket_cuts(joint, tail_part, tail_line, ends[0], length),
            *_tail_cuts(joint, pin_part, tail_line, pin_line, ends[1]),
        ),
    )


def _socket_cuts(joint: Dovetail, part: str, baseline: float, end: str, length: float) -> list[Cut]:
    """What is sawn and chopped out between the tails, right through the tail board."""
    at, inward = (length, -1.0) if end == "right" else (0.0, 1.0)
    return [Cut(part, "face", tuple(o), joint.own) for o in tail_outline(joint, at, inward, baseline)]


def _tail_cuts(joint: Dovetail, part: str, tail_line: float, pin_line: float, end: str) -> list[Cut]:
    """What is taken out between the pins, traced from the tails: the ends flush, or where the baseline lies nearer than that, the pin
    board's inside face in it."""
    home = min(tail_line, joint.mating)
    inside, outside = home / joint.run, (home - joint.mating) / joint.run
    return [
        Cut(
            part,
            end,
            (
                (lower + inside, 0.0),
                (upper - inside, 0.0),
                (upper - outside, joint.mating),
                (lower + outside, joint.mating),
            ),
            pin_line,
        )
        for lower, upper in joint.tails_at_end()
    ]


def tail_outline(
    joint: Dovetail, end: float = 0.0, inward: float = 1.0, base: float | None = None
) -> list[tuple[Point, ...]]:
    """The sockets of a tail board as closed polygons: x is the distance from the end, y across, mm.

    ``base`` is where the baseline is gauged, the mate's thickness where it is not given: proud of that the slopes run on.
    ``end`` places the board's end on the x axis and ``inward`` (1 or -1) the way into the board.
    """
    deep = joint.mating if base is None else base
    at = deep * inward + end
    mouth = joint.pins_at_mouth()
    run = deep / joint.run
    shapes: list[tuple[Point, ...]] = []
    for i, (lower, upper) in enumerate(mouth):
        low = lower if i == 0 else lower - run
        high = upper if i == len(mouth) - 1 else upper + run
        shapes.append(((end, lower), (at, low), (at, high), (end, upper)))
    return shapes


def of_joint(drawing: Drawing, joint_id: str) -> Drawing:
    """A marked face whose lines, when they are pulled, are those of this joint and no other."""
    items = tuple(
        replace(i, tag=i.tag.replace("laid:", f"laid:{joint_id}/", 1)) if isinstance(i, Handle) else i
        for i in drawing.items
    )
    return replace(drawing, items=items)


def tail_face(joint: Dovetail, part: str, baseline: float, slot: float, set_out: str = "dividers") -> Drawing:
    """The tail board's outside face at this end: the end at left, waste hatched, dimensions from the reference edge; ``set_out``: what
    its steps are set to."""
    reach = joint.mating * 2.6 + 14
    height = joint.width + slot
    items: list[Primitive] = [Area(rectangle(0, 0, reach, height), "wood", edge="outline", tag=f"part:{part}")]
    items += [Area(s, "waste", hatch=True, edge="outline") for s in tail_outline(joint, base=baseline)]
    items.append(
        Line(((baseline, 0), (baseline, height)), "computed", tag=f"setting:marking gauge:{baseline:.2f}", width=1.6)
    )
    first, second = joint.tails_at_end()[0], joint.tails_at_end()[min(1, joint.tails - 1)]
    items += [
        Dimension(
            (0, height), (baseline, height), baseline, 16, "baseline", tag=f"setting:marking gauge:{baseline:.2f}"
        ),
        Dimension(
            (0, 0),
            (0, joint.half_pin),
            joint.half_pin,
            20,
            "",
            edit="asked.half_pin",
            tag=f"setting:rule:{joint.half_pin:.2f}",
        ),
        Dimension((0, first[0]), (0, first[1]), joint.tail, 20),
        Dimension((reach, joint.width), (reach, 0), joint.width, 18),
    ]
    if joint.tails > 1:
        items.append(Dimension((0, first[1]), (0, second[0]), joint.pin, 20, edit="asked.pin"))
        items.append(
            Dimension(
                (0, first[0]),
                (0, second[0]),
                joint.step,
                60,
                "step",
                ink="computed",
                tag=f"setting:{set_out}:{joint.step:.2f}",
            )
        )
    items += [
        Handle((0, joint.half_pin), "laid:half_pin/lower", "up", "pull the half-pin line"),
        Handle((0, joint.width - joint.half_pin), "laid:half_pin/upper", "up", "pull the half-pin line"),
    ]
    into = baseline / joint.run
    items.append(Handle((baseline, first[0] + into), "laid:slope/lower", "up", "pull for another slope"))
    if joint.tails > 1:
        items.append(Handle((0, first[1]), f"laid:pin/{joint.tails}", "up", "pull for another pin"))
    items.append(Text((reach * 0.72, height / 2), part, size=26, bold=True, tag=f"part:{part}", halo=True))
    if slot > 0:
        items.append(Line(((0, joint.width), (baseline, joint.width)), "faint", dash=True))
    return Drawing(tuple(items))


def pin_face(joint: Dovetail, part: str, baseline: float) -> Drawing:
    """The pin board's end grain (above) and its outside face (below), drawn together, the reference edge at left."""
    items: list[Primitive] = []
    reach = joint.own * 2.4 + 12
    run = joint.mating / joint.run
    end_y = reach + 14
    items.append(Area(rectangle(0, 0, joint.width, reach), "wood", edge="outline", tag=f"part:{part}"))
    items.append(Area(rectangle(0, end_y, joint.width, joint.mating), "end grain", edge="outline"))
    for lower, upper in joint.tails_at_end():
        on_end = (
            (lower, end_y),
            (upper, end_y),
            (upper - run, end_y + joint.mating),
            (lower + run, end_y + joint.mating),
        )
        items.append(Area(on_end, "waste", hatch=True, edge="outline"))
        items.append(
            Area(rectangle(lower, reach - joint.own, upper - lower, joint.own), "waste", hatch=True, edge="outline")
        )
    items += [
        Line(
            ((0, reach - baseline), (joint.width, reach - baseline)),
            "computed",
            tag=f"setting:marking gauge:{baseline:.2f}",
            width=1.6,
        ),
        Dimension(
            (joint.width, reach),
            (joint.width, reach - baseline),
            baseline,
            18,
            "baseline",
            tag=f"setting:marking gauge:{baseline:.2f}",
        ),
        Text((joint.width / 2, end_y + joint.mating + 6), "end grain, inside face up", size=11, ink="quiet"),
        Text((joint.width / 2, 8), part, size=26, bold=True, tag=f"part:{part}", halo=True),
    ]
    pins = joint.pins_at_mouth()
    if len(pins) > 2:
        items.append(Dimension((pins[1][0], end_y), (pins[1][1], end_y), joint.pin, -14, ink="computed"))
    return Drawing(tuple(items))
