"""A dovetailed box written out as parts and joints of the maker's own, so that no kind holds it: the same sizes, the same cuts."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence

from nullah.core.document.pieces import AddJoint, AddPart
from nullah.core.marking.plan import JointPlan
from nullah.core.pieces.box import SIDES, Box
from nullah.core.pieces.box_joints import ASKED
from nullah.core.pieces.box_places import OUTSIDE, placed
from nullah.core.pieces.look import DIMENSIONS
from nullah.core.pieces.own import Written
from nullah.core.pieces.part import Part
from nullah.core.shapes.cut import WAYS, Placed

Ends = Mapping[tuple[str, str], float]  # how far a part's joints reach at its end that looks a way, mm


def written(box: Box, joints: Sequence[JointPlan]) -> Written:
    """The box written out, its corners gauged to the mates' thickness.

    Args:
        joints: as they are laid out, by the box's own names.
    """
    stands = {p.id: p for p in placed(box, ())}
    became: dict[str, tuple[str, ...]] = {}
    found: list[AddJoint] = []
    ends: dict[tuple[str, str], float] = {}
    for joint in joints:
        mine = list(_corner(joint)) if joint.tails else list(_let_in(box, joint, stands))
        became[joint.id] = tuple(j.id for j in mine)
        found += mine
        for one in mine:
            if joint.tails:
                ends[one.first, one.way] = box.thickness[one.second]
                ends[one.second, OUTSIDE[one.first]] = box.thickness[one.first]
            else:
                ends[one.first, one.way] = float(one.asked["depth"]) - float(one.asked["free"])
    return Written((*(_part(p, stands[p.id], ends) for p in box.parts), *found), became)


def _corner(joint: JointPlan) -> Iterator[AddJoint]:
    tail, pin = joint.parts
    asked = {ask: int(joint.figures[name]) if ask == "tails" else joint.figures[name] for name, ask in ASKED.items()}
    yield AddJoint(
        id=joint.id.replace(" ", "-"), family=joint.family, first=tail, second=pin, way=OUTSIDE[pin], asked=asked
    )


def _let_in(box: Box, joint: JointPlan, stands: Mapping[str, Placed]) -> Iterator[AddJoint]:
    """A groove, a dado or a rabbet as one housing for each two parts that meet in it, as deep as it is, with what the part that goes in
    leaves free at its bottom."""
    depth = joint.figures["depth"]
    if joint.id == "lid rabbet":
        pairs = [(side, "lid", "up") for side in SIDES]
    elif joint.id == "dadoes":
        pairs = [(p.id, side, OUTSIDE[side]) for p in box.parts if p.group == "dividers" for side in ("A", "C")]
    else:
        *sides, panel = joint.parts
        pairs = [(panel, side, OUTSIDE[side]) for side in SIDES if side in sides]
    for first, second, way in pairs:
        engaged = _overlap(stands[first], stands[second], way)
        asked = {"depth": depth, "free": round(max(0.0, depth - engaged), 4)}
        name = f"{joint.family}-{first}-{second}"
        yield AddJoint(id=name, family=joint.family, first=first, second=second, way=way, asked=asked)


def _overlap(one: Placed, other: Placed, way: str) -> float:
    """How far one part reaches into another, mm."""
    axis = next(i for i, v in enumerate(WAYS[way]) if v)
    a, b = _span(one, axis), _span(other, axis)
    return a[1] - b[0] if WAYS[way][axis] > 0 else b[1] - a[0]


def _span(part: Placed, axis: int) -> tuple[float, float]:
    ends = part.at((0.0, 0.0, 0.0))[axis], part.at(part.size)[axis]
    return min(ends), max(ends)


def _part(part: Part, stands: Placed, ends: Ends) -> AddPart:
    """A part between the shoulders of its joints, where it stands."""
    ways = {axis: name for name, axis in WAYS.items()}
    face, upper = ways[stands.axes[2]], ways[stands.axes[1]]
    block = []
    for axis, (low, high) in enumerate(_span(stands, k) for k in range(3)):
        less, more = (next(n for n, v in WAYS.items() if v[axis] == sign) for sign in (-1.0, 1.0))
        block.append((low + ends.get((part.id, less), 0.0), high - ends.get((part.id, more), 0.0)))
    sizes = {}
    for name, along in zip(DIMENSIONS, stands.axes, strict=True):
        low, high = block[next(i for i, v in enumerate(along) if v)]
        sizes[name] = high - low
    at = tuple(low for low, _ in block)
    label = part.id if part.id in SIDES else part.name
    return AddPart.model_validate(
        {
            "id": part.id,
            "label": label,
            **sizes,
            "species": part.species,
            "role": part.role,
            "face": face,
            "upper": upper,
            "at": at,
        }
    )
