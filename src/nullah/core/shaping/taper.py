"""Taper: a leg that grows thinner towards its foot on two or four faces, planed after its mortises are chopped."""

from __future__ import annotations

from nullah.core.marking.family import OPPOSITE, Joins, Look, NoJoint, School, own_axis, side_of
from nullah.core.marking.marked_faces import marked_faces
from nullah.core.marking.plan import CENTRE, SIDE_WORDS, Check, JointPlan, Setting
from nullah.core.marking.work import Making
from nullah.core.shapes.cut import WAYS, Cut, Placed
from nullah.core.values.ask import Ask
from nullah.core.values.frozen import frozen
from nullah.core.values.measure import at_least, marked

BELOW = 6.0  # mm the taper starts below what is joined to the leg (1/4", common practice)
SLENDER = 12.0  # mm: a foot thinner than this breaks (common practice, no source)


@frozen
class Taper:
    """The family: ``first`` is the leg, its foot towards ``way``."""

    name: str = "taper"
    about: str = "A leg planed thinner towards its foot on some of its faces."
    reaches: tuple[str, ...] = ()
    schools: tuple[School, ...] = ()
    home: str = ""
    making: Making = Making("tapered", "tapered", fits=False)
    joins: Joins | None = None
    after: tuple[str, ...] = ("mortise_and_tenon",)
    asks: tuple[Ask, ...] = (
        Ask("faces", "the faces that are tapered, as right back", "text", "right back"),
        Ask("foot", "how thick the leg is at its foot", "length", 25.0, 1.0, 300.0),
        Ask("start", "how far from the other end the taper starts", "length", 120.0, 0.0, 20_000.0),
    )

    def figure(self, name: str, look: Look) -> float:
        """start, foot, mm."""
        if name in ("start", "foot"):
            return float(look.asked(name))
        raise NoJoint(f"A taper has no {name}.")

    def plan(self, look: Look) -> JointPlan:
        """The taper laid out: one wedge off each face."""
        joint = look.joint
        leg = look.stands(joint.first)
        name = look.label(joint.first)
        foot, start = look.figure("foot"), look.figure("start")
        faces = str(look.asked("faces")).split()
        if own_axis(leg, joint.way)[0] != 0:
            raise NoJoint(f"The foot of {name} lies along it: it cannot be {joint.way}.")
        for way in faces:
            if way not in WAYS or own_axis(leg, way)[0] == 0:
                raise NoJoint(f'{name} has no face "{way[:20]}" that could be tapered.')
        run = leg.size[0] - start
        if run < 1:
            raise NoJoint(
                f"The taper of {name} starts {marked(start)} from its top; the leg is {marked(leg.size[0])} long."
            )
        cuts = []
        for way in faces:
            both = OPPOSITE[way] in faces
            axis, _ = own_axis(leg, way)
            off = (leg.size[axis] - foot) / (2 if both else 1)
            if off < 0:
                raise NoJoint(f"{name} is {marked(leg.size[axis])} thick: its foot cannot be {marked(foot)}.")
            if off > 1e-6:
                cuts.append(_wedge(leg, way, joint.way, start, off))
        top = SIDE_WORDS[side_of(leg, OPPOSITE[joint.way])]
        settings = [Setting("rule and square", start, "", (joint.first,), f"start of the taper of {name}", top)]
        lines: dict[str, str] = {}  # how the foot is gauged, by where from
        for way in faces:
            from_middle = OPPOSITE[way] in faces
            mm, origin = (foot / 2, CENTRE) if from_middle else (foot, SIDE_WORDS[side_of(leg, OPPOSITE[way])])
            if origin not in lines:
                lines[origin] = f"{marked(mm)} from the {origin}{' to both sides of it' if from_middle else ''}"
                settings.append(Setting("marking gauge", mm, "", (joint.first,), f"foot of {name}", origin))
        most = max((c.outline[2][1] - c.outline[1][1] for c in cuts), key=abs, default=0.0)
        return JointPlan(
            joint.id,
            self.name,
            f"Taper of {name}",
            (joint.first,),
            tuple(settings),
            (
                "Chop the mortises first: they are laid out and chopped while the leg is square.",
                f"Square the start line round at {marked(start)} from the {top}; gauge the foot on its end, "
                f"{', and '.join(lines.values())}; join them on the faces.",
                "Plane from the foot: start 125 to 150 from it and lengthen each stroke until parallel with the line, "
                "bearing on the toe.",
                "Watch the distance to the start line: below 10 check at each pass, and stop at it."
                + (" One taper planes away the next one's line: draw it again." if len(faces) > 1 else ""),
            ),
            (
                Check(at_least(foot, SLENDER), f"the foot is {marked(foot)}; at least {marked(SLENDER)}"),
                Check(
                    at_least(run, 4 * abs(most)),
                    f"the taper runs {marked(run)} for {marked(abs(most))}: it can be planed",
                ),
            ),
            marked_faces(cuts, {leg.id: leg}, look.label),
            figures={"start": start, "foot": foot, "run": run},
            cuts=tuple(cuts),
            redrawn=tuple(range(1, len(cuts))),
        )


def _wedge(leg: Placed, way: str, foot_way: str, start: float, off: float) -> Cut:
    """The wedge planed off one face: seen on the side beside it, from the start line to the foot."""
    axis, sign = own_axis(leg, way)
    _, foot_sign = own_axis(leg, foot_way)
    long, thick = leg.size[0], leg.size[axis]
    x0, x1 = (start, long) if foot_sign > 0 else (long - start, 0.0)
    top, low = (thick, thick - off) if sign > 0 else (0.0, off)
    beside = 3 - axis  # the cross axis that is not tapered here: 1 or 2
    side = {1: "lower", 2: "back"}[beside]
    return Cut(leg.id, side, ((x0, top), (x1, top), (x1, low)), leg.size[beside])


TAPER = Taper()
