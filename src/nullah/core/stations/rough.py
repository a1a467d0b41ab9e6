"""The rough: what is sawn for each part. One piece a part; or staves, where a panel is wider than the boards; or one thick
piece for several, resawn into leaves."""

from __future__ import annotations

import math
from collections.abc import Collection, Iterable
from dataclasses import field
from functools import cached_property

from nullah.core.document.calls import Call, Option, taken
from nullah.core.document.names import call_of
from nullah.core.document.project import Allowances, Board, Choice
from nullah.core.layout.model import Blank
from nullah.core.layout.saw import HARDNESS, RIP_MINUTES
from nullah.core.pieces.part import Part
from nullah.core.stations.made import PieceResult
from nullah.core.stations.timber import TimberResult
from nullah.core.values.frozen import frozen, replace
from nullah.core.values.measure import at_least, marked
from nullah.core.wood.species import species

# what a role may hold (common practice): a show face nothing, an inside face a sound knot, a hidden one run-out as well
FORGIVES = {
    "show": frozenset[str](),
    "inside": frozenset({"sound knot", "sapwood"}),
    "hidden": frozenset({"sound knot", "sapwood", "run-out"}),
}
TURNED_AWAY = frozenset({"sound knot", "sapwood"})  # on one face only: that face is turned inside (common practice)
KNOTS, CLEAR = "knots", "clear"  # the call whether a part is laid out clear of knots, and the option that it is
JOINTING = 1.5  # mm planed off each edge that is glued (common practice, no source)
CLEANING = 1.5  # mm planed off each face the resaw leaves (common practice, no source)
OVER_THICK = 1.0  # mm that staves are left thicker than the panel they make, which is levelled when the glue is dry (common practice)
NARROWEST = 40.0  # mm: a narrower stave is not worth its glue line
MOST_STAVES, MOST_LEAVES = 12, 4
FLAT = 30.0  # degrees: rings that lie flatter than this cup


@frozen
class Rough:
    """What is sawn, and what comes of it.

    ``gives``: the parts that come of each blank; ``leaves``: into how many a blank is resawn, where it is; ``staves``: finished
    widths of the staves of a part that is glued up, in order across it, mm; ``over``: how much over-thick those staves are left.
    """

    blanks: tuple[Blank, ...] = ()
    gives: dict[str, tuple[str, ...]] = field(default_factory=dict)
    leaves: dict[str, int] = field(default_factory=dict)
    staves: dict[str, tuple[float, ...]] = field(default_factory=dict)
    calls: tuple[Call, ...] = ()
    over: dict[str, float] = field(default_factory=dict)

    @cached_property
    def _by_part(self) -> dict[str, tuple[str, ...]]:
        found: dict[str, list[str]] = {}
        for blank, parts in self.gives.items():
            for part in parts:
                found.setdefault(part, []).append(blank)
        return {part: tuple(blanks) for part, blanks in found.items()}

    def leaf_thickness(self, blank: str, planned: float) -> float:
        """How thick each leaf of a blank comes out: as the parts are planned, or over-thick where they are glued up yet."""
        over = self.over.get(self.gives[blank][0], 0.0) if self.gives[blank] else 0.0
        return planned + over

    def of(self, part: str) -> tuple[str, ...]:
        """The blanks that a part comes from; its own name where it needs none any more."""
        return self._by_part.get(part, (part,))


def parts_of(blank: str, parts: Collection[str]) -> tuple[str, ...]:
    """The parts that come of a blank by its name, be it wanted any more or not: ``lid``, ``lid 2``, ``1+2``, ``lid 1+2``."""
    stem = blank.rpartition(" ")[0]
    several = tuple(blank.split("+"))
    if blank in parts:
        return (blank,)
    if stem in parts:
        return (stem,)
    return several if all(p in parts for p in several) else ()


def kept_clear(parts: Iterable[Part], choices: Iterable[Choice]) -> frozenset[str]:
    """The parts that are laid out clear of knots, as was chosen last."""
    last = {c.call: c.option for c in choices}
    return frozenset(p.id for p in parts if last.get(call_of(KNOTS, p.id, p.piece)) == CLEAR)


def resawn_thickness(leaves: int, thickness: float, kerf: float) -> float:
    """How thick a flat piece must be for so many leaves: a kerf between any two, and cleaning on each face it leaves, mm."""
    return leaves * thickness + (leaves - 1) * (kerf + 2 * CLEANING)


def resawing(part: Part, wide: float, times: int) -> tuple[float, float]:
    """Square metres and minutes of resawing so many times through a piece as long as a part and ``wide`` mm wide."""
    area = times * part.length * wide / 1e6
    return area, area * RIP_MINUTES * HARDNESS[species(part.species).ease]


def work(
    boards: tuple[Board, ...],
    rip_kerf: float,
    allowances: Allowances,
    choices: tuple[Choice, ...],
    piece: PieceResult,
    timber: TimberResult,
    freed: frozenset[str] = frozenset(),
) -> Rough:
    """The rough of every part: sizes with what is left on, and how it is made up. What is ``freed`` from its board in one piece
    is made up no other way any more."""
    stock = [b for b in boards if not b.sawn]
    rooms = _Rooms(stock, timber)
    made = _Made(allowances, rip_kerf, kept_clear(piece.parts, choices), freed)
    calls: list[Call] = []
    for part in piece.parts:
        call = None if part.cut or part.id in freed else _stave_call(part, rooms(part), made, choices)
        if call is not None:
            calls.append(call)
    glued = {c.parts[0]: c for c in calls}
    for part in piece.parts:
        if part.id in freed and part.id not in glued:
            made.leaves_of((part,), 1)
    for alike in _alike(p for p in piece.parts if p.id not in glued and p.id not in freed):
        call = _resaw_call(alike, stock, rip_kerf, choices)
        if call is not None:
            calls.append(call)
        made.leaves_of(alike, int(call.in_force) if call is not None and call.in_force != "plane" else 1)
    for part in piece.parts:
        if part.id in glued:
            made.staves_of(part, _widths(glued[part.id].in_force, part), rooms(part))
    order = {p.id: i for i, p in enumerate(piece.parts)}
    made.blanks.sort(key=lambda b: order[made.gives[b.id][0]])
    return Rough(tuple(made.blanks), made.gives, made.leaves, made.staves, tuple(calls), made.over)


class _Made:
    """Blanks as they are put together."""

    def __init__(self, allowances: Allowances, kerf: float, clear: frozenset[str], freed: frozenset[str]) -> None:
        self.allowances, self.kerf, self.clear, self.freed = allowances, kerf, clear, freed
        self.blanks: list[Blank] = []
        self.gives: dict[str, tuple[str, ...]] = {}
        self.leaves: dict[str, int] = {}
        self.staves: dict[str, tuple[float, ...]] = {}
        self.over: dict[str, float] = {}

    def leaves_of(self, parts: tuple[Part, ...], leaves: int) -> None:
        """Like parts, so many from each piece; one that is left over comes from a piece of its own."""
        for at in range(0, len(parts), leaves):
            few = parts[at : at + leaves]
            if all(p.cut for p in few):  # of a leaf that is not, its wood is in the piece both come from
                continue
            one = self._blank(few[0])
            if len(few) > 1:
                thick = resawn_thickness(len(few), max(p.thickness for p in few), self.kerf)
                one = replace(one, id="+".join(p.id for p in few), thickness=thick)
                self.leaves[one.id] = len(few)
            self._add(one, tuple(p.id for p in few))

    def staves_of(self, part: Part, made: tuple[tuple[float, ...], int], room: Room) -> None:
        """The staves of a panel, each its own piece; or leaves of one, opened like a book; over-thick where all the boards are thick
        enough for that."""
        widths, leaves = made
        whole = self._blank(part)
        thick = resawn_thickness(leaves, part.thickness + OVER_THICK, self.kerf)
        over = OVER_THICK if room and all(at_least(b.thickness, thick) for _, b in room) else 0.0
        self.staves[part.id], self.over[part.id] = widths, over
        for k in range(0, len(widths), leaves):
            name = "+".join(str(k + 1 + i) for i in range(leaves))
            one = replace(
                whole,
                id=f"{part.id} {name}",
                width=round(stave_in_the_rough(widths[k], part, len(widths), self.allowances), 1),
                thickness=resawn_thickness(leaves, part.thickness + over, self.kerf),
                least=(whole.least[0], widths[k] + JOINTING),
                group=f"{part.group} {name}" if whole.in_order else f"staves of {part.id}",
            )
            if leaves > 1:
                self.leaves[one.id] = leaves
            self._add(one, (part.id,))

    def _blank(self, part: Part) -> Blank:
        """A part in one piece: finished + allowance (+ what is fitted last). Half the allowance is the least that serves."""
        left = self.allowances
        length, width = part.length + part.long_by, part.width + part.wide_by
        no_knots = frozenset({"sound knot"}) if part.id in self.clear else frozenset[str]()
        return Blank(
            part.id,
            round(length + left.length, 1),
            round(width + left.width, 1),
            part.thickness,
            part.species,
            (length + left.length / 2, width + left.width / 2),
            FORGIVES[part.role] - no_knots,
            part.end_zone + left.length / 2,
            part.group,
            part.in_order,
            TURNED_AWAY - no_knots,
        )

    def _add(self, one: Blank, gives: tuple[str, ...]) -> None:
        self.blanks.append(one)
        self.gives[one.id] = gives


def stave_in_the_rough(width: float, part: Part, many: int, allowances: Allowances) -> float:
    """A stave's width as sawn: its share of what the whole panel is left wide, and what jointing takes off its glued edges, mm."""
    left_on = part.wide_by + allowances.width
    return width + left_on * width / part.width + 2 * JOINTING * (many - 1) / many


# ---- staves


Room = list[tuple[float, Board]]  # the width that is left of each board, widest first


class _Rooms:
    """Boards of a part's species that are thick enough, by the width that is left of each; looked up once for parts alike."""

    def __init__(self, boards: Iterable[Board], timber: TimberResult) -> None:
        spans = timber.spans
        self._all: Room = sorted(((spans[b.id].y1 - spans[b.id].y0, b) for b in boards), key=lambda f: (-f[0], f[1].id))
        self._of: dict[tuple[str, float], Room] = {}

    def __call__(self, part: Part) -> Room:
        key = (part.species, part.thickness)
        if key not in self._of:
            self._of[key] = [
                (w, b) for w, b in self._all if b.species == part.species and at_least(b.thickness, part.thickness)
            ]
        return self._of[key]


def _widths(option: str, part: Part) -> tuple[tuple[float, ...], int]:
    """The finished widths that an option of the staves' call stands for, and how many leaves each piece is resawn into."""
    if option == "book":
        return (part.width / 2, part.width / 2), 2
    if "+" in option:
        first = tuple(float(w) for w in option.split("+")[:-1])
        return (*first, part.width - sum(first)), 1
    many = int(option)
    return (part.width / many,) * many, 1


def _recorded(call_id: str, asked: str, choices: tuple[Choice, ...]) -> str:
    """The option that was taken for a call whose facts are the same, whatever boards there are now; or nothing."""
    last = next((c for c in reversed(choices) if c.call == call_id), None)
    return last.option if last is not None and last.asked == asked else ""


def _begun(part: Part, call_id: str, made: _Made, choices: tuple[Choice, ...]) -> tuple[str, str] | None:
    """What staves are gone on with where some are sawn, and the facts they were asked on: as many as were taken; where the panel
    is to be wider by now, those that are sawn stay as they were meant, and the rest, or one more, makes up what is wanted."""
    last = next((c for c in reversed(choices) if c.call == call_id), None)
    if last is None or last.option == "book":
        return None
    was = float(last.asked.partition(" wide")[0])
    widths, _ = _widths(last.option, replace(part, width=was))
    sawn = [f"{part.id} {n}" in made.freed for n in range(1, len(widths) + 1)]
    if not any(sawn):
        return None
    if part.width <= was + 0.5:  # what is sawn is wide enough, and planed narrower
        return last.option, last.asked
    kept = sum(w for w, done in zip(widths, sawn, strict=True) if done)
    rest = [w for w, done in zip(widths, sawn, strict=True) if not done]
    grown = (part.width - kept) / sum(rest) if rest else 1.0
    found = [w if done else w * grown for w, done in zip(widths, sawn, strict=True)]
    if not rest:
        found.append(part.width - kept)
    return "+".join(f"{w:.1f}" for w in found), last.asked


def _as_the_boards_are(part: Part, room: Room, allowances: Allowances) -> tuple[float, ...]:
    """Stave widths that use the widest boards whole, the last one what is still wanted; none where that gains nothing."""
    widths: list[float] = []
    wanted = part.width
    for w, _ in room:
        share = (w - 2 * JOINTING) / (1 + (part.wide_by + allowances.width) / part.width)
        widths.append(math.floor(min(share, wanted)))
        wanted -= widths[-1]
        if wanted <= 1.0:
            widths[-1] += wanted
            break
    if wanted > 1.0 or min(widths) < NARROWEST or len({round(w) for w in widths}) == 1:
        return ()
    return tuple(widths)


def _stave_call(part: Part, room: Room, made: _Made, choices: tuple[Choice, ...]) -> Call | None:
    """How a panel that is wider than any board is glued up; None where a board is wide enough or there is none at all."""
    rough = part.width + part.wide_by + made.allowances.width
    call_id, asked = call_of("staves", part.id, part.piece), f"{part.width:.0f} wide, {part.thickness:.1f} thick"
    recorded = _recorded(call_id, asked, choices)  # what is begun is gone on with, though boards are fewer by now
    if begun := _begun(part, call_id, made, choices):
        recorded, asked = begun
    widest = room[0][0] if room else 0.0
    if not recorded and (not room or rough <= widest + 0.05):
        return None
    sizes = {n: stave_in_the_rough(part.width / n, part, n, made.allowances) for n in range(2, MOST_STAVES + 1)}
    fewest = next((n for n, w in sizes.items() if w <= widest + 0.05 and part.width / n >= NARROWEST), 0)
    if not fewest and not recorded:
        return None
    options = [
        _staves_option(str(n), (part.width / n,) * n, sizes[n], part)
        for n in (fewest, fewest + 1)
        if n in sizes and part.width / n >= NARROWEST
    ]
    uneven = _as_the_boards_are(part, room, made.allowances)
    if uneven and len(uneven) <= fewest:
        most = stave_in_the_rough(max(uneven), part, len(uneven), made.allowances)
        options.append(_staves_option("+".join(f"{w:.0f}" for w in uneven), uneven, most, part))
    thick = resawn_thickness(2, part.thickness, made.kerf)
    books = [b for w, b in room if b.thickness >= thick and w >= sizes[2]]
    if books:
        area, minutes = resawing(part, part.width / 2, 1)
        said = (
            f"one piece {marked(sizes[2])} wide and {marked(thick)} thick of {' or '.join(b.name for b in books[:2])}, resawn and "
            "opened like a book",
            f"{area:.2f} m2 of resawing, about {minutes:.0f} minutes; leaves move when freed: saw them early",
        )
        options.append(Option("book", "two leaves, book-matched", said))
    if recorded and recorded not in {o.id for o in options}:
        widths, leaves = _widths(recorded, part)
        most = stave_in_the_rough(max(widths), part, len(widths), made.allowances)
        one = _staves_option(recorded, widths, most, part)
        options.append(one if leaves == 1 else replace(one, label="two leaves, book-matched"))
    in_force = recorded if begun else taken(call_id, tuple(options), asked, choices)
    return Call(
        call_id,
        "breakdown",
        f"{part.name[:1].upper()}{part.name[1:]} needs {marked(rough)} of width; "
        f"the widest {part.species} has {marked(widest)}. From how many staves?",
        tuple(options),
        options[0].id,
        "fewest glue lines",
        asked,
        differ="One school turns the rings of neighbours about, so that cups cancel; another keeps them alike and holds the one "
        "curve down. They are turned about here.",
        parts=(part.id,),
        taken=in_force,
        piece=part.piece,
    )


def _staves_option(name: str, widths: tuple[float, ...], rough: float, part: Part) -> Option:
    lines = len(widths) - 1
    sizes = " + ".join(marked(w) for w in widths)
    label = f"{len(widths)} staves" if "+" not in name else f"{len(widths)} staves, as wide as the boards are"
    said = (
        f"{sizes} finished, up to {marked(rough)} in the rough",
        f"{lines} glue line{'s' if lines > 1 else ''}, {lines * part.length / 1000:.1f} m; {2 * lines} edges to joint",
    )
    return Option(name, label, said)


# ---- leaves


def _alike(parts: Iterable[Part]) -> list[tuple[Part, ...]]:
    """Parts gathered that could come as leaves of one piece: alike in size, wood and role, and not wanted in sequence."""
    found: dict[tuple[object, ...], list[Part]] = {}
    for p in parts:
        alone = p.id if p.in_order or not p.group else ""
        key = (alone, p.group, round(p.planned[0], 1), round(p.planned[1], 1), p.species, p.role)
        found.setdefault(key, []).append(p)  # whatever thickness one was found to have: it was resawn with its mates
    return [tuple(ps) for ps in found.values()]


def _resaw_call(parts: tuple[Part, ...], boards: list[Board], kerf: float, choices: tuple[Choice, ...]) -> Call | None:
    """Whether thin parts are resawn from thick boards, where every board of their wood holds two or more."""
    one = max(parts, key=lambda p: p.thickness)
    mine = [b for b in boards if b.species == one.species]
    call_id, asked = call_of("resaw", one.group or one.id, one.piece), f"{len(parts)} parts"
    recorded = _recorded(call_id, asked, choices)
    if len(parts) < 2 or all(p.cut for p in parts) or (not mine and not recorded):
        return None
    fits = [
        n
        for n in range(2, MOST_LEAVES + 1)
        if all(b.thickness >= resawn_thickness(n, one.thickness, kerf) for b in mine)
    ]
    if not fits and not recorded:
        return None
    options = []
    for n in sorted({*fits[-2:], *(int(r) for r in (recorded,) if r.isdigit())}, reverse=True):
        pieces = math.ceil(len(parts) / n)
        area, minutes = resawing(one, one.width, len(parts) - pieces)
        thick = resawn_thickness(n, one.thickness, kerf)
        said = (
            f"{pieces} piece{'s' if pieces > 1 else ''} of {marked(thick)} for {len(parts)} parts: {area:.2f} m2 less wood laid",
            f"{area:.2f} m2 of resawing, about {minutes:.0f} minutes",
        )
        options.append(Option(str(n), f"resaw, {n} from each piece", said))
    least = min((b.thickness for b in mine), default=one.thickness)
    away = f"{marked(least - one.thickness, unit=' mm')} or more of each goes to shavings"
    options.append(Option("plane", "plane each from the whole thickness", (away, "no resawing")))
    names = f"{(one.group or 'parts').capitalize()} {', '.join(p.id for p in parts)}"
    return Call(
        call_id,
        "breakdown",
        f"{names}: {marked(one.thickness)} thick from boards of {marked(least)}. Resaw them?",
        tuple(options),
        options[0].id,
        "a saw takes a kerf where a plane would take a board",
        asked,
        differ="Leaves are cut a little over thick and left to settle: freed wood moves.",
        parts=tuple(p.id for p in parts),
        taken=taken(call_id, tuple(options), asked, choices),
        piece=one.piece,
    )
