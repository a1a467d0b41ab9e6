"""A piece of any kind worked out: its parts with their sizes, its rods as lines of arithmetic, where everything stands."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import field

from nullah.core.document.pieces import AddJoint, Answers, Designed, Put
from nullah.core.document.project import CutMark, JointMark, Measured
from nullah.core.drawing.display_list import area
from nullah.core.joints.families import FAMILIES
from nullah.core.joints.holes import with_neighbours
from nullah.core.marking.family import Grows, NoJoint, Shop, axis_of, still
from nullah.core.marking.marked_faces import marked_faces
from nullah.core.marking.plan import Check, JointPlan, moved, places_of
from nullah.core.pieces.by_hand import ByHand, apply
from nullah.core.pieces.hand_room import with_hand_room
from nullah.core.pieces.kind import Kind
from nullah.core.pieces.kinds import KINDS
from nullah.core.pieces.look import DIMENSIONS, Seen, frame_axes
from nullah.core.pieces.part import Chain, ChainLine, Part
from nullah.core.pieces.sizes import Sizes
from nullah.core.pieces.stick import Gap, Stick
from nullah.core.shapes.cut import SIDES, Cut, Placed, Point3, shifted
from nullah.core.values.ask import BadAnswer
from nullah.core.values.design import JointDesign, NoPiece, PartDesign, Ref, Rod, Term
from nullah.core.values.frozen import frozen, replace
from nullah.core.values.measure import SAME
from nullah.core.wood.species import species

LONG_BY, WIDE_BY = 10.0, 4.0  # mm left on a part that is fitted last (common practice)
NO_AREA = 1e-6  # mm2
SPOKEN = {"length": "long", "width": "wide", "thickness": "thick"}


@frozen
class Off:
    """A rod whose parts came out otherwise than planned, so that the outside or the inside must give: what differs, and both sizes
    under both ways (outside, inside)."""

    rod: str
    name: str
    facts: tuple[tuple[str, str, float, float], ...]  # what is called how, in which way, as it came out and as planned
    parts: tuple[str, ...]
    less: bool
    both: Mapping[str, tuple[float, float]]


@frozen
class Worked:
    """A designed piece, worked out. Names are the piece's own, without what a project puts before them."""

    sizes: Sizes
    parts: tuple[Part, ...]
    chains: tuple[Chain, ...]
    checks: tuple[Check, ...]
    lost: tuple[tuple[str, str], ...]
    off: tuple[Off, ...]
    misfits: tuple[tuple[str, str, float, float], ...] = ()  # a part, a dimension, what it measures, what lies between
    joints_cut: Mapping[str, JointMark] = field(default_factory=dict)
    as_planned: Sizes | None = None  # where joints are cut: the figures were they not
    aside: tuple[
        tuple[str, str], ...
    ] = ()  # joints of the maker's own that cannot be laid out, and why: no size comes of them

    def part(self, part_id: str) -> Part:
        """The part of that id.

        Raises:
            KeyError: there is none.
        """
        return {p.id: p for p in self.parts}[part_id]

    def placed(self) -> tuple[Placed, ...]:
        """Every part where it stands."""
        return tuple(self.sizes.placed(p.id) for p in self.parts)

    def joints(self) -> tuple[JointPlan, ...]:
        """Every joint laid out, in the order of the design.

        Raises:
            NoJoint, NoPiece: one cannot be, or what it would cut away is no wood of the part.
        """
        return self._with_neighbours([self._laid(j) for j in self.sizes.design.joints])

    def joints_there_are(self) -> tuple[tuple[JointPlan, ...], tuple[tuple[str, str], ...]]:
        """The joints that can be laid out, and of each other its id and why not."""
        laid, failed = [], [*self.aside]
        for joint in self.sizes.design.joints:
            try:
                laid.append(self._laid(joint))
            except ValueError as error:
                failed.append((joint.id, str(error)))
        return self._with_neighbours(laid), tuple(failed)

    def _with_neighbours(self, laid: list[JointPlan]) -> tuple[JointPlan, ...]:
        design = self.sizes.design
        told = with_neighbours(laid, self.sizes.size, lambda part: design.part(part).label)
        if all(FAMILIES[j.family].home != "screwed" for j in told):
            return tuple(told)
        return with_hand_room(told, design, {p.id: self.sizes.placed(p.id) for p in design.parts})

    def laid_anew(self) -> dict[str, JointPlan | str]:
        """Joints that are cut as they would be laid out were none of them; why not, where one cannot be."""
        found: dict[str, JointPlan | str] = {}
        for joint in self.sizes.design.joints:
            if joint.id in self.joints_cut and self.as_planned is not None:
                try:
                    found[joint.id] = laid_out(joint, self.as_planned)
                except ValueError as error:
                    found[joint.id] = str(error)
        return found

    def _laid(self, joint: JointDesign) -> JointPlan:
        kept = self.sizes.laid.get(joint.id)
        if kept is None:
            mark = self.joints_cut.get(joint.id)
            kept = laid_out(joint, self.sizes, cut=mark is not None)
            self.sizes.laid[joint.id] = kept = kept if mark is None else _as_cut(kept, mark, self.sizes)
        return kept

    def failing(self, names: Iterable[str]) -> tuple[tuple[str, str], ...]:
        """Of some joints that are not cut those that cannot be laid out, and why."""
        found = []
        wanted = set(names) - set(self.joints_cut)
        for joint in self.sizes.design.joints:
            if joint.id in wanted:
                try:
                    self._laid(joint)
                except ValueError as error:
                    found.append((joint.id, str(error)))
        return tuple(found)

    def why(self, part: str, dimension: str) -> tuple[tuple[str, float], ...]:
        """What a part's dimension is made up of: (what, mm) each, which add up to it where it is neither measured nor cut."""
        return self.sizes.why(part, dimension)

    @property
    def sticks(self) -> tuple[Stick, ...]:
        """A story stick for every rod that has a length."""
        edits = {c.rod: c.edit for c in self.chains}
        found = []
        for rod in self.sizes.design.rods:
            marks = list(self.sizes.rods.marks(rod.id).values())
            if len(marks) > 1 and marks[-1] > marks[0]:
                found.append(_stick(rod, [m - marks[0] for m in marks], marks[0], edits[rod.id]))
        return tuple(found)

    @property
    def outside(self) -> tuple[float, float, float]:
        """How far the piece reaches along x, y and z, mm; 0 where it has no parts."""
        boxes = [p.box for p in self.placed()]
        if not boxes:
            return (0.0, 0.0, 0.0)
        low = [min(a[k] for a, _ in boxes) for k in range(3)]
        high = [max(b[k] for _, b in boxes) for k in range(3)]
        return (high[0] - low[0], high[1] - low[1], high[2] - low[2])


def laid_out(joint: JointDesign, sizes: Sizes, cut: bool = False) -> JointPlan:
    """A joint laid out. What is ``cut`` is where it is in the wood, also where a smaller part is asked for since: a call tells.

    Raises:
        NoJoint, NoPiece: it cannot be, or what it would cut away is no wood of the part.
    """
    laid = FAMILIES[joint.family].plan(Seen(joint, sizes))
    if any(c.depth <= 0 or abs(area(c.outline)) <= NO_AREA for c in laid.cuts):
        raise NoJoint(f"{laid.name}: the parts do not meet there; move one, or let it look another way.")
    size = {part: sizes.size(part) for part in dict.fromkeys(c.part for c in laid.cuts)}
    for one in laid.cuts if not cut else ():
        if trouble := _off_the_wood(one, size[one.part], sizes.design.part(one.part).label):
            raise NoJoint(f"{laid.name}: {trouble}")
    joins = FAMILIES[joint.family].joins
    without = tuple(f"No {words}; with one it is quicker." for words in (joins.lacking(sizes.shop) if joins else ()))
    return replace(laid, places=places_of(laid.cuts, size.__getitem__), steps=(*without, *laid.steps))


def _off_the_wood(cut: Cut, size: Point3, label: str) -> str:
    """Why a cut cannot be: it lies beside its part, or takes all of it; "" where it can."""
    axis, _ = SIDES[cut.side]
    wide, tall = (size[k] for k in range(3) if k != axis)
    points = (*cut.outline, *cut.far)
    low, high = [min(p[k] for p in points) for k in (0, 1)], [max(p[k] for p in points) for k in (0, 1)]
    if high[0] <= 0 or high[1] <= 0 or low[0] >= wide or low[1] >= tall:
        return f"part of it lies beside {label}; move one, or ask for less."
    whole = max(*low, wide - high[0], tall - high[1], size[axis] - cut.depth) <= SAME
    if whole and not cut.far and abs(area(cut.outline)) >= wide * tall - NO_AREA:
        return f"nothing would be left of {label}."
    return ""


def _as_cut(laid: JointPlan, mark: JointMark, sizes: Sizes) -> JointPlan:
    """A joint that is cut with its cuts where they are in the wood, also where its parts have come to stand otherwise."""
    by = {p: moved(mark.places[p], now) for p, now in laid.places.items() if p in mark.places}
    by = {p: way for p, way in by.items() if any(way)}
    if not by:
        return laid
    cuts = tuple(shifted(c, by[c.part]) if c.part in by else c for c in laid.cuts)
    stands = {p: sizes.stands(p) for p in laid.places}
    faces = marked_faces(cuts, stands, lambda part: sizes.design.part(part).label)
    return replace(laid, cuts=cuts, faces=faces, places=places_of(cuts, sizes.size))


def work(
    piece: Designed,
    measured: tuple[Measured, ...] = (),
    cut: tuple[CutMark, ...] = (),
    held: Mapping[str, str] | None = None,
    shop: Shop | None = None,
    grows: Grows | None = None,
    joints: tuple[JointMark, ...] = (),
) -> Worked:
    """The piece worked out.

    Args:
        measured, cut, joints: of this piece alone, by its own names; ``joints`` are those that are cut. held: for each rod, whether its
            ``outside`` or ``inside`` stays; by default the outside where parts came out thinner, else the inside. grows: how far a
            width of a part moves to the driest and to the wettest of the year, mm.

    Raises:
        BadAnswer, NoPiece, NoJoint, UnknownSpecies: it cannot be made; one sentence.
    """
    kind = KINDS.get(piece.kind)
    if kind is None or kind.design is None:
        raise BadAnswer(f'There is no kind "{piece.kind[:40]}"; there are {", ".join(KINDS)}.')
    asked = kind.answers(piece.asked)
    by_hand = apply(piece.edits, kind.design(asked))
    for part in by_hand.design.parts:
        species(part.species)
    mine = {e.id if isinstance(e, AddJoint) else e.owner for e in piece.edits if isinstance(e, AddJoint | Put)}
    aside: tuple[tuple[str, str], ...] = ()
    while True:  # at the most as often as there are joints: each time round one is fewer
        found = _sized(kind, asked, by_hand, measured, cut, held, shop or Shop(), grows or still, joints)
        failing = found.failing(mine)
        if not failing:
            return replace(found, aside=aside) if aside else found
        aside += failing
        gone = {name for name, _ in failing}
        kept = tuple(j for j in by_hand.design.joints if j.id not in gone)
        by_hand = replace(by_hand, design=replace(by_hand.design, joints=kept))


def _sized(
    kind: Kind,
    asked: Answers,
    by_hand: ByHand,
    measured: tuple[Measured, ...],
    cut: tuple[CutMark, ...],
    held: Mapping[str, str] | None,
    at_hand: Shop,
    grows: Grows,
    joints: tuple[JointMark, ...],
) -> Worked:
    """A design worked out, with all its joints taken as they are asked."""
    said: dict[tuple[str, str], float] = {(m.part, m.dimension): m.value for m in measured}
    marks: dict[tuple[str, str], float] = {(m.part, d): getattr(m, d) for m in cut for d in DIMENSIONS}
    sawn = {(m.joint, name): value for m in joints for name, value in m.figures.items()}

    def sizes(way: Mapping[str, str], held_joints: Mapping[tuple[str, str], float] = sawn) -> Sizes:
        return Sizes(by_hand.design, said, {**marks, **held_joints}, by_hand.put, way, at_hand, grows)

    off = _off(sizes, said | marks)
    ways = {o.rod: (held or {}).get(o.rod, "outside" if o.less else "inside") for o in off}
    done = sizes(ways)
    cut_parts = {m.part for m in cut}
    parts = tuple(_part(p, done, cut_parts, measured) for p in by_hand.design.parts)
    read_by = _read_by(done.reads)
    parts = tuple(replace(p, drives=_drives(p.id, done, read_by)) for p in parts)
    for rod in by_hand.design.rods:
        done.rods.marks(rod.id)  # which says where nothing is left
    chains = tuple(_chain(r, done) for r in by_hand.design.rods)
    checks = kind.checks(asked, done, grows) if kind.checks else ()
    anew = sizes(ways, {}) if sawn else None
    misfits = _misfits(done, said | marks)
    by_id = {m.joint: m for m in joints}
    return Worked(done, parts, chains, checks, by_hand.lost, off, misfits, by_id, anew)


def _misfits(sizes: Sizes, known: Mapping[tuple[str, str], float]) -> tuple[tuple[str, str, float, float], ...]:
    """Parts that measure otherwise than what lies between their marks."""
    ids = {p.id for p in sizes.design.parts}
    found = []
    for (part, dimension), mm in known.items():
        if part in ids and dimension in DIMENSIONS and sizes.two_ended(part, DIMENSIONS.index(dimension)):
            room = sizes.room(part, dimension)
            if abs(mm - room) > SAME:
                found.append((part, dimension, mm, room))
    return tuple(found)


def _off(sizes: Callable[[Mapping[str, str]], Sizes], known: Mapping[tuple[str, str], float]) -> tuple[Off, ...]:
    """The rods that hold an inside and have parts on them that came out otherwise than planned."""
    outer = sizes({})
    ids = {p.id for p in outer.design.parts}
    found = []
    for rod in outer.design.rods:
        if not rod.hold:
            continue
        on = [
            t.of
            for m in rod.marks
            for t in m.gap
            if t.of is not None and t.of.owner in ids and (t.of.owner, t.of.what) in known
        ]
        differ = [r for r in on if abs(outer.value(r) - outer.planned(r.owner, r.what)) > SAME]
        if not differ:
            continue
        inner = sizes({rod.id: "inside"})
        at = [m.id for m in rod.marks].index(rod.hold)
        both = {
            name: (one.value(Ref(rod.id, "total")), one.rods.gaps(rod)[at])
            for name, one in (("outside", outer), ("inside", inner))
        }
        facts = tuple(
            (outer.design.part(r.owner).label, SPOKEN[r.what], outer.value(r), outer.planned(r.owner, r.what))
            for r in differ
        )
        change = sum(outer.value(r) - outer.planned(r.owner, r.what) for r in differ)
        found.append(Off(rod.id, rod.name, facts, tuple(dict.fromkeys(r.owner for r in differ)), change < 0, both))
    return tuple(found)


def _part(design: PartDesign, sizes: Sizes, cut: set[str], measured: tuple[Measured, ...]) -> Part:
    length, width, thickness = sizes.size(design.id)
    joints = [j for j in sizes.design.joints if design.id in (j.first, j.second)]
    named = tuple(dict.fromkeys(j.family.replace("_", " ") for j in joints))
    axis = frame_axes(design)[0]
    zone = max(
        (
            (thickness + (sizes.value(Ref(j.id, "reach")) if "reach" in FAMILIES[j.family].reaches else 0.0))
            for j in joints
            if j.first == design.id and axis_of(j.way)[0] == axis and FAMILIES[j.family].reaches
        ),
        default=0.0,
    )
    part = Part(
        design.id,
        design.label,
        length,
        width,
        thickness,
        design.species,
        design.role,  # type: ignore[arg-type]  # one of the three
        design.show_face,
        ", ".join(named) or "none",
        group=design.group,
        end_zone=zone,
        long_by=LONG_BY if design.fitted else 0.0,
        wide_by=WIDE_BY if design.fitted else 0.0,
        fitted=design.fitted,
        cut=design.id in cut,
        planned=(length, width, thickness),
        measured=tuple(m.dimension for m in measured if m.part == design.id),
    )
    if not (part.cut or part.measured):
        return part
    planned = (
        sizes.planned(design.id, "length"),
        sizes.planned(design.id, "width"),
        sizes.planned(design.id, "thickness"),
    )
    return replace(part, planned=planned)


def _drives(part: str, sizes: Sizes, read_by: Mapping[Ref, set[Ref]]) -> tuple[str, ...]:
    """What follows this part's thickness and width, in a few words each."""
    found: dict[str, list[str]] = {}
    labels = {p.id: p.label for p in sizes.design.parts}
    for ref in _following(part, read_by):
        if ref.owner in labels and ref.owner != part and ref.what in DIMENSIONS:
            found.setdefault(ref.what, []).append(labels[ref.owner])
    return tuple(f"{what} of {', '.join(sorted(names))}" for what, names in sorted(found.items()))


def _read_by(reads: Mapping[Ref, set[Ref]]) -> dict[Ref, set[Ref]]:
    """Of every figure, the figures that were worked out straight from it."""
    back: dict[Ref, set[Ref]] = {}
    for ref, read in reads.items():
        for one in read:
            back.setdefault(one, set()).add(ref)
    return back


def _following(owner: str, read_by: Mapping[Ref, set[Ref]]) -> set[Ref]:
    """Every figure that was worked out from one of ``owner``'s, near or far."""
    waiting = [r for r in read_by if r.owner == owner]
    found: set[Ref] = set()
    while waiting:
        for ref in read_by.get(waiting.pop(), ()):
            if ref not in found:
                found.add(ref)
                waiting.append(ref)
    return found


def _chain(rod: Rod, sizes: Sizes) -> Chain:
    """A rod as lines of arithmetic that add up to its length."""
    lines: list[ChainLine] = []
    for mark, gap in list(zip(rod.marks, sizes.rods.gaps(rod), strict=True))[1:]:
        if mark.gives:
            words = mark.label or mark.id.replace("-", " ")
            lines.append(ChainLine(f"{words}, {'clear' if mark.clear else 'what is left'}", gap))
            continue
        told = gap - sizes.total(mark.gap)  # what a part that is measured, cut or written of has otherwise
        if abs(told) > SAME and len(mark.gap) == 1:
            lines.append(ChainLine(f"{mark.gap[0].label or mark.id.replace('-', ' ')}, as it is", gap))
            continue
        lines += [_line(t, sizes) for t in mark.gap]
        if abs(told) > SAME:
            lines.append(ChainLine("as it is, not as planned", told))
    return Chain(rod.name, tuple(lines), next((t.edit for t in rod.total if t.edit), ""), rod.id)


def _stick(rod: Rod, marks: list[float], start: float, edit: str) -> Stick:
    """A rod as a story stick; what a single term gives may be typed and pulled."""
    gaps = []
    for mark, a, b in zip(rod.marks[1:], marks, marks[1:], strict=False):
        term = mark.gap[0] if len(mark.gap) == 1 else None
        asked = f"asked.{term.edit}" if term is not None and term.edit and term.times == 1 else ""
        gaps.append(Gap(a, b, asked, mark.clear))
    single = rod.marks[1].gap[0].edit if len(marks) == 2 and len(rod.marks[1].gap) == 1 else ""
    total = f"rod.{rod.id}" if edit else f"asked.{single}" if single else ""
    named = tuple((at, mark.id.replace("-", " ")) for mark, at in zip(rod.marks, marks, strict=True))
    axis = "" if rod.frame else rod.axis
    return Stick(rod.id, f"Story stick: {rod.name}", axis, start, named, tuple(gaps), total, edit or single)


def _line(term: Term, sizes: Sizes) -> ChainLine:
    each = sizes.term(term)
    whole = term.times == int(term.times)
    if whole and term.times > 0:
        return ChainLine(term.label or "less", each, int(term.times), f"asked.{term.edit}" if term.edit else "")
    return ChainLine(
        term.label or "less", each * term.times, 1, f"asked.{term.edit}" if term.edit and term.times > 0 else ""
    )


__all__ = ["BadAnswer", "NoJoint", "NoPiece", "Off", "Worked", "work"]
