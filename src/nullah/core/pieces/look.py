"""What a family of joints sees of a piece: the one ``Look`` there is, on the figures of a design."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

from nullah.core.joints.families import FAMILIES
from nullah.core.marking.family import Block, Shop, Span, axis_of
from nullah.core.shapes.cut import Placed, Point3
from nullah.core.values.design import Answer, JointDesign, PartDesign, Ref
from nullah.core.wood.species import species

if TYPE_CHECKING:
    from nullah.core.pieces.sizes import Sizes


DIMENSIONS = ("length", "width", "thickness")


LIES = {"length": "along", "width": "across", "thickness": "through"}  # what says how each dimension lies


def frame_axes(part: PartDesign) -> tuple[int, int, int]:
    """The axes of its frame that a part's length, width and thickness lie along."""
    return frame_axes_of(part.face, part.up)


def frame_axes_of(face: str, upper: str) -> tuple[int, int, int]:
    """The same of a part whose face and upper edge look so."""
    thick, wide = axis_of(face)[0], axis_of(upper)[0]
    return 3 - thick - wide, wide, thick


@dataclass
class Seen:
    """What a family sees of the piece: ``marking/family.py`` says what each answers."""

    joint: JointDesign
    sizes: Sizes

    @property
    def shop(self) -> Shop:
        return self.sizes.shop

    def asked(self, name: str) -> Answer:
        """What is asked of the joint, or what its family asks by default."""
        if name in self.joint.asked:
            return self.joint.asked[name]
        default: Answer = next(a.default for a in FAMILIES[self.joint.family].asks if a.name == name)
        return default

    def figure(self, name: str, joint: str = "") -> float:
        return self.sizes.value(Ref(joint or self.joint.id, name))

    def as_cut(self, name: str, joint: str) -> float | None:
        return self.sizes.cut.get((joint, name))

    def size(self, part: str) -> Point3:
        return self.sizes.size(part)

    def thickness(self, part: str) -> float:
        return self.sizes.value(Ref(part, "thickness"))

    def across(self, part: str, way: str) -> float:
        axis = axis_of(way)[0]
        dimension = frame_axes(self.sizes.design.part(part)).index(axis)
        if not self.sizes.two_ended(part, dimension):
            return self.sizes.value(Ref(part, DIMENSIONS[dimension]))
        low, high = self.sizes.span(part, axis, bare=True)
        return high - low

    def bare(self, part: str) -> Block:
        return self.sizes.standing(part, True)

    def body(self, part: str) -> Block:
        return self.sizes.standing(part, False)

    def stands(self, part: str) -> Placed:
        return self.sizes.stands(part)

    def stands_in(self, part: str, other: str) -> Placed:
        return self.sizes.stands_in(part, other)

    def label(self, part: str) -> str:
        return self.sizes.design.part(part).label

    def up(self, part: str) -> str:
        return self.sizes.design.part(part).up

    def face(self, part: str) -> str:
        return self.sizes.design.part(part).face

    def grows(self, part: str, width: float) -> Span:
        return self.sizes.grows(part, self.sizes.design.part(part).species, width)

    def ease(self, part: str) -> str:
        return species(self.sizes.design.part(part).species).ease

    def others(self) -> tuple[JointDesign, ...]:
        return tuple(j for j in self.sizes.design.joints if j.id != self.joint.id)
