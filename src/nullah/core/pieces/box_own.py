"""The dovetailed box as everything downstream sees it: its sizes, joints, places, story sticks, and how it goes together."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping

from nullah.core.document.calls import Call, Change
from nullah.core.document.names import prefix
from nullah.core.document.pieces import Piece
from nullah.core.document.project import Choice, CutMark, JointMark, Kit, Measured
from nullah.core.joints.dovetail import NoDovetail
from nullah.core.joints.dovetail_ways import Ways
from nullah.core.marking.plan import JointPlan
from nullah.core.pieces import box_calls, box_joints, box_places, box_together, box_written
from nullah.core.pieces.box import Box
from nullah.core.pieces.glue import CLOSING, COATING
from nullah.core.pieces.own import Closing, Laying, NoShift, Written
from nullah.core.pieces.part import Chain, Part
from nullah.core.pieces.stick import Gap, Stick
from nullah.core.shapes.cut import Placed, Point3
from nullah.core.values.frozen import frozen
from nullah.core.values.measure import marked
from nullah.core.wood.seasoned import Wood

NARROWEST = 5.5  # mm of a bay that a divider is pulled to


def work(
    piece: Piece,
    measured: tuple[Measured, ...],
    cut: tuple[CutMark, ...],
    joints: tuple[JointMark, ...],
    choices: tuple[Choice, ...],
    wood: Wood,
) -> tuple[BoxMade, tuple[Call, ...], tuple[Call, ...]]:
    """The box worked out, what it asks before its sides' widths are known, and what after.

    Raises:
        BoxTooSmall, UnknownSpecies: it cannot be made.
    """
    as_cut = {m.joint: m.figures for m in joints}
    box, planned, first, last = box_calls.worked(piece, measured, cut, as_cut, choices, wood)
    return BoxMade(piece, box, planned, as_cut), first, last


@frozen
class BoxMade:
    """A box, the piece it was worked out from, and what its joints that are cut were cut to; ``planned``: the box were none cut."""

    piece: Piece
    box: Box
    planned: Box
    joints_cut: Mapping[str, Mapping[str, float]]
    word: str = "box"

    @property
    def parts(self) -> tuple[Part, ...]:
        """Sides, bottom, dividers, lid."""
        return self.box.parts

    @property
    def chains(self) -> tuple[Chain, ...]:
        """Length, width and height."""
        return self.box.chains

    @property
    def outside(self) -> Point3:
        """Length, width and height over all, mm."""
        return self.box.outside

    @property
    def inside(self) -> Point3:
        """Length, width and height inside, mm."""
        return self.box.inside

    @property
    def problems(self) -> tuple[str, ...]:
        """What no longer goes in."""
        return self.box.problems

    @property
    def sticks(self) -> tuple[Stick, ...]:
        """Length, width and height: every mark of one direction, from the corner where D meets A."""
        box = self.box
        length, width, height = box.outside
        t = box.thickness
        long = [(0.0, "end"), (t["D"], "inside D"), (length - t["B"], "inside B"), (length, "end")]
        bays, at = [Gap(0.0, t["D"], "asked.wall")], t["D"]
        for i, (c, thick) in enumerate(zip(box.dado_centres, box.divider_thicknesses, strict=True), 1):
            long += [(c - thick / 2, f"dado {i}"), (c + thick / 2, "")]
            bays += [Gap(at, c - thick / 2, "", True), Gap(c - thick / 2, c + thick / 2, "asked.divider_thickness")]
            at = c + thick / 2
        bays += [Gap(at, length - t["B"], "", True), Gap(length - t["B"], length, "asked.wall")]
        wide = [(0.0, "front"), (t["A"], "inside A"), (width - t["C"], "inside C"), (width, "back")]
        across = [
            Gap(0.0, t["A"], "measured.A"),
            Gap(t["A"], width - t["C"], "", True),
            Gap(width - t["C"], width, "measured.C"),
        ]
        edge, floor = box.groove_from_edge, box.groove_from_edge + box.bottom_thickness
        high = [(0.0, "lower edge"), (edge, "groove"), (floor, ""), (height, "upper edge")]
        up = [Gap(edge, floor, "asked.bottom_thickness")]
        if box.lid_slides:
            top = height - box.lid_from_edge
            high += [(top - box.lid_thickness, "lid groove, B ends here"), (top, "")]
            up += [
                Gap(floor, top - box.lid_thickness, "", True),
                Gap(top - box.lid_thickness, top, "asked.lid_thickness"),
            ]
        else:
            up.append(Gap(floor, height, "", True))
        return tuple(
            Stick(
                name,
                f"Story stick, {name}",
                axis,
                0.0,
                tuple(sorted(marks)),
                tuple(gaps),
                f"rod.{name}",
                f"extra_{name}",
            )
            for name, axis, marks, gaps in (
                ("length", "x", long, bays),
                ("width", "y", wide, across),
                ("height", "z", high, up),
            )
        )

    def following(self, part: Part, off: list[int]) -> Change | None:
        """The change of the box that makes the plan of a part what it was cut to."""
        update = box_calls.following(self.piece, part, off)
        return box_calls.changed(self.piece, update) if update else None

    def thinner(self, part: Part, to: float) -> Change | None:
        """The change of the thickness that is asked of such parts."""
        name = box_calls.THICKNESS_FIELD.get(part.group or part.id)
        return box_calls.changed(self.piece, {name: to}) if name else None

    def laid(self, kit: Kit, choices: tuple[Choice, ...]) -> Laying:
        """Corners, grooves, dadoes, the lid's rabbet."""
        proud = box_joints.proud_call(self.piece, self.box, choices)
        asked: tuple[Call, ...] = (proud,)
        try:
            ways, more = box_joints.ways_calls(self.piece, self.box, choices)
            asked, by = (proud, *more), (box_joints.PROUD[proud.in_force], ways)
            joints = box_joints.joints_of(self.piece, kit, self.box, *by, self.joints_cut)
        except NoDovetail as error:
            return Laying((), str(error), asked)
        return Laying(joints, "", asked, self._anew(kit, *by))

    def _anew(self, kit: Kit, proud: float, ways: Ways) -> dict[str, JointPlan | str]:
        """The joints that are cut as they would be laid out were none cut."""
        if not self.joints_cut:
            return {}
        try:
            found = box_joints.joints_of(self.piece, kit, self.planned, proud, ways, {})
        except NoDovetail as error:
            return dict.fromkeys(self.joints_cut, str(error))
        return {j.id: j for j in found if j.id in self.joints_cut}

    def as_cut(self, mark: JointMark, now: JointPlan) -> tuple[str, Change] | None:
        """What is asked of the box as a corner was cut, where that alone makes the plan what was cut."""
        off = [n for n, v in mark.figures.items() if n in now.figures and abs(now.figures[n] - v) > 1e-6]
        if not off or any(name not in box_joints.ASKED for name in off):
            return None
        back = {box_joints.ASKED[name]: mark.figures[name] for name in off}
        if "tails" in back or "pin" in back or "half_pin" in back:  # else their number would follow the width anew
            back["tails"] = int(mark.figures["tails"])
        words = ", ".join(f"{k.replace('_', ' ')} {v:g}" for k, v in back.items())
        return words, box_calls.changed(self.piece, back)

    def placed(self, joints: tuple[JointPlan, ...]) -> tuple[Placed, ...]:
        """Every part where it stands."""
        return box_places.placed(self.box, joints)

    def closing(self, kit: Kit, joints: tuple[JointPlan, ...], choices: tuple[Choice, ...]) -> Closing:
        """All corners in one go or in two halves."""
        box = self.box
        cheeks = sum(4 * j.tails for j in joints)  # two to a tail, two to a pin
        minutes = cheeks * COATING + 4 * CLOSING
        clamps = 2 * max(2, math.ceil(box.outside[2] / box_together.CLAMP_EVERY)) + 2
        call = box_together.stages_call(prefix(self.piece.id), kit, minutes, choices)
        engaged = box_together.engaged_panels(box)
        stages = "one" if call is None or call.in_force == "one" else "stages"
        return Closing(
            box.outside[:2],
            minutes,
            box_together.order(box, stages, kit.glue),
            box_together.checks(box, kit, clamps, engaged),
            (call,) if call else (),
            engaged,
        )

    def written(self, joints: tuple[JointPlan, ...]) -> Written:
        """Its parts where they stand, and a joint for each two of them that meet."""
        return box_written.written(self.box, joints)

    def away(self, part: str) -> Point3:
        """Sides outward, the lid up, the dividers up, the bottom down."""
        length, width, height = self.box.outside
        out = 0.35 * min(length, width) + 40.0
        ways = {
            "A": (0.0, -1.25 * out, 0.0),
            "C": (0.0, 1.25 * out, 0.0),
            "B": (1.4 * out, 0.0, 0.0),
            "D": (-1.4 * out, 0.0, 0.0),
            "bottom": (0.0, 0.0, -1.1 * out - 0.3 * height),
            "lid": (0.0, 0.0, 1.6 * out + 0.9 * height),
        }
        return ways.get(part, (0.0, 0.0, 0.6 * out + 0.5 * height))

    def shifts(self) -> tuple[str, ...]:
        """The dividers."""
        return tuple(p.id for p in self.box.parts if p.group == "dividers")

    def shifted(self, part: str, by: float, stop: Callable[[float], float]) -> tuple[Change, str]:
        """A divider moved along the box, from one bay's room into the next.

        Raises:
            NoShift: there is no such divider, or no room.
        """
        if part not in self.shifts():
            raise NoShift(f"Divider {part} is no longer here.")
        bays, count, i = self.box.bays, self.piece.dividers, int(part) - 1
        shift = [*self.piece.divider_shift, *([0.0] * count)][:count]
        room = (NARROWEST - bays[i], bays[i + 1] - NARROWEST)
        if room[0] > room[1]:
            raise NoShift(f"There is no room to move divider {part}.")
        shift[i] = stop(shift[i] + min(max(by, room[0]), room[1]))
        words = f"divider {part} moved: bays {marked(max(bays[i] + by, 0.0))} and {marked(max(bays[i + 1] - by, 0.0))}"
        return box_calls.changed(self.piece, {"divider_shift": tuple(shift) if any(shift) else ()}), words
