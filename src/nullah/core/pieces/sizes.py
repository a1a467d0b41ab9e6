"""The figures of a design: each looked up once and remembered, measured before cut, cut before put by hand, that before the sum.

What was read on the way is recorded: what depends on a figure, and why it is what it is, come of that.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from dataclasses import dataclass, field

from nullah.core.joints.families import FAMILIES
from nullah.core.marking.family import Block, Grows, Shop, Span, axis_of, still
from nullah.core.marking.plan import JointPlan
from nullah.core.pieces.look import DIMENSIONS, Seen, frame_axes
from nullah.core.pieces.rods import LEAST, Rods
from nullah.core.shapes.cut import Placed, Point3, on_grid, stand
from nullah.core.shapes.turned import into, out_of
from nullah.core.values.design import Along, Design, JointDesign, NoPiece, PartDesign, Ref, Sum, Term
from nullah.core.values.measure import marked

WHOLE = "the whole rod"
Said = Mapping[tuple[str, str], float]


@dataclass
class Sizes:
    """The sizes of one design. Built anew for each design; never changed once asked.

    Attributes:
        measured, cut, put: by (owner, what), mm: what the wood says, what is cut (of parts and of joints), what the maker wrote.
        grows: how far a width of a part moves in a year.
        held: for a rod's id, whether its ``outside`` or its ``inside`` stays.
        reads: what each figure was worked out from.
        laid: joints laid out from them, kept by whoever lays them out.
    """

    design: Design
    measured: Said = field(default_factory=dict)
    cut: Said = field(default_factory=dict)
    put: Said = field(default_factory=dict)
    held: Mapping[str, str] = field(default_factory=dict)
    shop: Shop = field(default_factory=Shop)
    grows: Grows = still
    reads: dict[Ref, set[Ref]] = field(default_factory=dict)

    def __post_init__(self) -> None:
        self.laid: dict[str, JointPlan] = {}
        self._kept: dict[Ref, float] = {}
        self._doing: list[Ref] = []
        self._parts = {p.id: p for p in self.design.parts}
        self._joints = {j.id: j for j in self.design.joints}
        self._frames = {f.id: f for f in self.design.frames}
        self._plain: Sizes | None = None
        self._loose: Sizes | None = None
        self._blocks: dict[tuple[str, bool], Block] = {}
        self._silent = False
        self._stands: dict[str, Placed] = {}
        self._reaching: dict[str, list[JointDesign]] = {}  # by part, those of its joints that may reach beyond its ends
        for joint in self.design.joints:
            if FAMILIES[joint.family].reaches:
                for one in {joint.first, joint.second}:
                    self._reaching.setdefault(one, []).append(joint)
        between: dict[str, list[tuple[PartDesign, int]]] = {}
        for part in self.design.parts:
            for dimension, lies in enumerate((part.along, part.across, part.through)):
                if lies.rod and lies.a and lies.b and not part.fitted:
                    between.setdefault(lies.rod, []).append((part, dimension))
        self.rods = Rods(
            {r.id: r for r in self.design.rods},
            between,
            {**self.put, **self.measured},
            self.held,
            self.total,
            self._loose_reach,
            lambda: self._as_planned().rods,
        )

    # ---- figures

    def value(self, ref: Ref) -> float:
        """A figure, mm (an angle in degrees).

        Raises:
            NoPiece: figures that wait for each other.
            NoJoint: the joint it belongs to cannot be made.
        """
        if self._doing and not self._silent:
            self.reads.setdefault(self._doing[-1], set()).add(ref)
        found = self._kept.get(ref)
        if found is not None:
            return found
        if ref in self._doing:
            ring = self._doing[self._doing.index(ref) :]
            names = ", ".join(f"{r.what} of {self._name(r.owner)}" for r in ring[:4])
            raise NoPiece(f"These sizes wait for each other: {names}.")
        self._doing.append(ref)
        before, self._silent = self._silent, False
        try:
            found = self._worked(ref)
        finally:
            self._doing.pop()
            self._silent = before
        self._kept[ref] = found
        return found

    def value_of(self, owner: str, what: str) -> float:
        """As ``value``, by owner and figure."""
        return self.value(Ref(owner, what))

    @contextmanager
    def unrecorded(self) -> Iterator[None]:
        """While something is read only to see where it stands: that is no dependence of sizes."""
        before, self._silent = self._silent, True
        try:
            yield
        finally:
            self._silent = before

    def has(self, part: str) -> bool:
        """Whether the design has that part now."""
        return part in self._parts

    def planned(self, part: str, dimension: str) -> float:
        """What a part's dimension would be were it neither measured nor cut itself: as written by hand, else the sum."""
        written = self.put.get((part, dimension))
        return written if written is not None else self._part_sum(self._parts[part], DIMENSIONS.index(dimension))

    def total(self, terms: Sum) -> float:
        """A sum, mm."""
        return sum(t.times * self.term(t) for t in terms)

    def term(self, term: Term) -> float:
        """One line of a sum, once, mm: a number, a figure, or the largest of several; or what parts grow that are to fill it."""
        refs = term.most or ((term.of,) if term.of else ())
        found = max((self.value(ref) for ref in refs), default=term.mm)
        return found * self._swelling(term.swells) if term.swells else found

    def _swelling(self, parts: tuple[str, ...]) -> float:
        """The share of a room that parts across it, which fill it in the wettest month, have grown by then: k / (1 + k) where a mm
        grows by k."""
        most = max((self.grows(p, self._parts[p].species, 1.0)[1] for p in parts if p in self._parts), default=0.0)
        return max(0.0, most) / (1 + max(0.0, most))

    def _name(self, owner: str) -> str:
        part = self._parts.get(owner)
        return part.label if part else owner

    def _worked(self, ref: Ref) -> float:
        key = (ref.owner, ref.what)
        for known in (self.measured, self.cut, self.put):
            if key in known:
                return known[key]
        if ref.owner in self._parts:
            part = self._parts[ref.owner]
            if ref.what in DIMENSIONS:
                return self._part_sum(part, DIMENSIONS.index(ref.what))
        if ref.owner in self._joints:
            joint = self._joints[ref.owner]
            return float(FAMILIES[joint.family].figure(ref.what, Seen(joint, self)))
        if ref.owner in self.rods.of:
            if ref.what != WHOLE:
                self.value(
                    Ref(ref.owner, WHOLE)
                )  # every mark is read from the whole rod, so that what it hangs on is known
            marks = self.rods.marks(ref.owner)
            if ref.what == WHOLE:
                return 0.0
            if ref.what == "total":
                return next(reversed(marks.values())) - next(iter(marks.values()))
            if ref.what in marks:
                return marks[ref.what]
        return 0.0  # what is gone counts nothing; ``by_hand`` tells of it

    # ---- rods

    def _loose_reach(self, part: PartDesign, dimension: int) -> float:
        """What joints reach beyond both ends of a part, were no stretch told: so nothing waits for itself."""
        if self._loose is None:
            stiff = {(p.id, DIMENSIONS[d]) for found in self.rods.between.values() for p, d in found}
            measured, cut, put = (
                {k: v for k, v in s.items() if k not in stiff} for s in (self.measured, self.cut, self.put)
            )
            self._loose = Sizes(self.design, measured, cut, put, self.held, self.shop, self.grows)
        axis = frame_axes(part)[dimension]
        return self._loose._reach(part, axis, False) + self._loose._reach(part, axis, True)

    def _as_planned(self) -> Sizes:
        """The same design with nothing measured or cut."""
        if self._plain is None:
            self._plain = Sizes(self.design, {}, {}, self.put, {}, self.shop, self.grows)
        return self._plain

    # ---- parts

    def size(self, part: str) -> Point3:
        """Length, width and thickness of a part, mm.

        Raises:
            NoPiece: one of them comes to nothing.
        """
        found = tuple(self.value(Ref(part, d)) for d in DIMENSIONS)
        for name, mm in zip(DIMENSIONS, found, strict=True):
            if not LEAST <= mm <= 20_000:
                said = {"length": "long", "width": "wide", "thickness": "thick"}[name]
                raise NoPiece(f"The {self._name(part)} comes out {marked(mm, unit=' mm')} {said}; that cannot be made.")
        return found  # type: ignore[return-value]  # three of them

    def _lies(self, part: PartDesign, dimension: int) -> tuple[Along, int]:
        """How a part lies along one of its dimensions, and which axis of its frame that is."""
        return (part.along, part.across, part.through)[dimension], frame_axes(part)[dimension]

    def two_ended(self, part: str, dimension: int) -> bool:
        """Whether a part lies from mark to mark along a dimension."""
        lies, _ = self._lies(self._parts[part], dimension)
        return bool(lies.rod and lies.a and lies.b)

    def room(self, part: str, dimension: str) -> float:
        """What the rods leave for a part's dimension, whatever it measures, mm."""
        return self._part_sum(self._parts[part], DIMENSIONS.index(dimension))

    def why(self, part_id: str, dimension: str) -> tuple[tuple[str, float], ...]:
        """What a part's dimension is made up of, without what was measured, cut or written of it: (what, mm) each."""
        part = self._parts[part_id]
        lies, axis = self._lies(part, DIMENSIONS.index(dimension))
        if lies.rod and lies.a and lies.b:
            low, high = self._ends(lies)
            a, b = lies.a.replace("-", " "), lies.b.replace("-", " ")
            found = [(f"{self.rods.of[lies.rod].name.lower()}, {a} to {b}", high - low)]
        else:
            found = [(t.label or "as asked", t.times * self.term(t)) for t in lies.size]
        for joint in self.design.joints:
            for far in (False, True):
                reach = self._reach_of(joint, part, axis, far)
                if reach is not None and reach > 0 and (not lies.rod or (lies.a and lies.b)):
                    found.append((f"{joint.family.replace('_', ' ')} {joint.id}", reach))
        return tuple(found)

    def _part_sum(self, part: PartDesign, dimension: int) -> float:
        lies, axis = self._lies(part, dimension)
        if not lies.rod:
            return self.total(lies.size) + self._reach(part, axis, False) + self._reach(part, axis, True)
        if not (lies.a and lies.b):
            return self.total(lies.size)
        low, high = self._ends(lies)
        return high - low + self._reach(part, axis, False) + self._reach(part, axis, True)

    def _ends(self, lies: Along) -> Span:
        """Both ends of what lies between two marks."""
        return (
            self.value(Ref(lies.rod, lies.a)) + self.total(lies.off),
            self.value(Ref(lies.rod, lies.b)) + self.total(lies.off_b),
        )

    def _reach(self, part: PartDesign, axis: int, far: bool) -> float:
        """How far joints reach beyond where a part would end, at its low or its far end along an axis."""
        reaches = (self._reach_of(joint, part, axis, far) for joint in self._reaching.get(part.id, ()))
        return max((r for r in reaches if r is not None), default=0.0)

    def _reaches(self, joint: JointDesign, part: PartDesign, axis: int, far: bool) -> str:
        """The figure of a joint that says how far it reaches there; "" where it does not."""
        if joint.first == part.id:
            which, way = "reach", joint.way
        elif joint.second == part.id:  # the second goes on to the face of the first, which looks outward
            which, way = "reach of second", self._parts[joint.first].face
        else:
            return ""
        return which if axis_of(way) == (axis, 1 if far else -1) and which in FAMILIES[joint.family].reaches else ""

    def _reach_of(self, joint: JointDesign, part: PartDesign, axis: int, far: bool) -> float | None:
        """How far one joint reaches there; None where it does not."""
        which = self._reaches(joint, part, axis, far)
        return self.value(Ref(joint.id, which)) if which else None

    def span(self, part_id: str, axis: int, bare: bool = False) -> Span:
        """From where to where a part goes along an axis of its frame, mm; ``bare`` without what its joints reach."""
        part = self._parts[part_id]
        dimension = frame_axes(part).index(axis)
        lies, _ = self._lies(part, dimension)
        if bare and lies.a and lies.b:
            return self._ends(lies)
        if not lies.rod:
            low = self.total(lies.off)
            if bare:
                reached = any(
                    self._reaches(j, part, axis, far) for j in self._reaching.get(part_id, ()) for far in (False, True)
                )
                return low, low + (
                    self.total(lies.size) if reached else self.value(Ref(part_id, DIMENSIONS[dimension]))
                )
            low -= self._reach(part, axis, False)
            return low, low + self.value(Ref(part_id, DIMENSIONS[dimension]))
        if lies.a:
            low = self.value(Ref(lies.rod, lies.a)) + self.total(lies.off)
            if lies.b:
                low -= self._reach(part, axis, False)
            return low, low + self.value(Ref(part_id, DIMENSIONS[dimension]))
        high = self.value(Ref(lies.rod, lies.b)) + self.total(lies.off_b)
        return high - self.value(Ref(part_id, DIMENSIONS[dimension])), high

    def block(self, part: str, bare: bool = False) -> Block:
        """Where a part stands in its frame."""
        return self.span(part, 0, bare), self.span(part, 1, bare), self.span(part, 2, bare)

    def standing(self, part: str, bare: bool) -> Block:
        """As ``block``, looked at only to see where it stands, and remembered."""
        found = self._blocks.get((part, bare))
        if found is None:
            with self.unrecorded():
                found = self._blocks[part, bare] = self.block(part, bare)
        return found

    def stands(self, part: str) -> Placed:
        """A part where it stands in its frame, both ends on the grid, so that what is to meet meets."""
        if part in self._stands and not self._doing:
            return self._stands[part]
        design = self._parts[part]
        self.size(part)  # which says where one comes to nothing
        block = tuple((on_grid(low), on_grid(high)) for low, high in self.block(part))
        size = tuple(block[axis][1] - block[axis][0] for axis in frame_axes(design))
        low = (block[0][0], block[1][0], block[2][0])
        found = self._stands[part] = stand(part, (size[0], size[1], size[2]), design.face, design.up, low)
        return found

    def placed(self, part: str) -> Placed:
        """A part where it stands in the piece."""
        return self._out_of(self._parts[part].frame, self.stands(part))

    def stands_in(self, part: str, other: str) -> Placed:
        """A part as it stands in the frame of another."""
        mine, its = self._parts[part].frame, self._parts[other].frame
        own = self.stands(part)
        return own if mine == its else self._into(its, self._out_of(mine, own))

    def otherwise(self, sizes: Said) -> Sizes:
        """The same design with some sizes otherwise, by (part, dimension): as measured where they are measured, else as written by
        hand."""
        measured = {k: sizes.get(k, v) for k, v in self.measured.items()}
        put = {**self.put, **{k: v for k, v in sizes.items() if k not in self.measured}}
        return Sizes(self.design, measured, self.cut, put, self.held, self.shop, self.grows)

    def placed_as_planned(self) -> tuple[Placed, ...]:
        """Every part where it would stand were nothing measured or cut."""
        plain = self._as_planned()
        return tuple(plain.placed(p.id) for p in self.design.parts)

    def _out_of(self, frame_id: str, own: Placed) -> Placed:
        frame = self._frames.get(frame_id)
        return own if frame is None else out_of(own, [self.total(s) for s in frame.at], frame.axis, frame.degrees)

    def _into(self, frame_id: str, placed: Placed) -> Placed:
        frame = self._frames.get(frame_id)
        return placed if frame is None else into(placed, [self.total(s) for s in frame.at], frame.axis, frame.degrees)
