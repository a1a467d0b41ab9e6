"""The dovetailed box: from what it must hold to parts, inside out.

Sides go round as A front, B right end, C back, D left end, in sequence from one length so that the figure runs on. The
long sides A and C carry the tails. A sliding lid runs in grooves of A, C and D and passes over the lowered end B.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import field
from itertools import pairwise

from nullah.core.document.pieces import Piece
from nullah.core.document.project import CutMark, Measured
from nullah.core.joints import grooves
from nullah.core.pieces.chains import as_it_is, in_a_bay, planned_chains, stands
from nullah.core.pieces.part import Chain, Part
from nullah.core.values.frozen import frozen, replace
from nullah.core.values.measure import at_least, marked
from nullah.core.wood.seasoned import Wood, WoodOfParts
from nullah.core.wood.species import species

SIDES = ("A", "B", "C", "D")
MATES = {"A": ("B", "D"), "B": ("A", "C"), "C": ("B", "D"), "D": ("A", "C")}
LID_WAY_IN = "B"  # the lowered end that a sliding lid passes over
# the ends of a side from left to right, named by its mates, as one looks at its inside face
SEEN_FROM_INSIDE = {"A": ("B", "D"), "B": ("C", "A"), "C": ("D", "B"), "D": ("A", "C")}
NAMES = {"A": "front", "B": "right end", "C": "back", "D": "left end"}
FREE = 0.5  # mm a panel is kept free in its grooves, beyond what it grows (common practice)
LID_FREE = 0.5  # mm round a lift-off lid (common practice)
LINE_FREE = 0.5  # mm kept between a groove and a pin line
FLATTEST_RUN = 1.0  # of a slope for a rise of one: below it the tails run into each other on any board
NOTHING_LEFT = 5.0  # mm: a side or bay below this is no box


class BoxTooSmall(ValueError):
    """What was asked for leaves no room; the message says what to change."""


@frozen
class Box:
    """A box worked out: parts, chains, and the figures its joints are laid out from. All mm."""

    parts: tuple[Part, ...]
    chains: tuple[Chain, ...]
    outside: tuple[float, float, float]
    inside: tuple[float, float, float]
    thickness: Mapping[str, float]
    half_pin: float
    run: float
    groove_depth: float
    groove_from_edge: float
    lid_from_edge: float
    dado_depth: float
    bays: tuple[float, ...]
    bay_needed: float
    dado_centres: tuple[float, ...]
    bottom_thickness: float
    lid_thickness: float
    divider_thickness: float
    divider_thicknesses: tuple[float, ...]
    panel_growth: Mapping[str, tuple[float, float]]
    lid_slides: bool = False
    divider_room: tuple[float, float] | None = None  # what dividers have above them under a lid, and what they grow
    problems: tuple[str, ...] = ()

    def part(self, part_id: str) -> Part:
        """The part of that id.

        Raises:
            KeyError: there is none.
        """
        return {p.id: p for p in self.parts}[part_id]

    @property
    def bay(self) -> float:
        """The narrowest bay, clear."""
        return min(self.bays)

    @property
    def even(self) -> bool:
        """Whether all bays are one width."""
        return max(self.bays) - min(self.bays) < 0.01

    @property
    def sides(self) -> tuple[Part, ...]:
        """A, B, C, D."""
        return tuple(p for p in self.parts if p.id in SIDES)


@frozen
class Facts:
    """What the box is worked out from, beside the piece as asked for.

    ``hold`` says for each axis ("length", "width") whether the ``outside`` or ``inside`` stays when a wall comes out
    otherwise than planned. ``groove`` is ``tail`` or ``pin``: what the grooves lie in. ``wood``: what each part is made of.
    ``pair``: of two sides measured unlike (``AC``, ``BD``), whether the ``shorter`` or the ``longer`` holds. ``joints``: what joints
    that are cut were cut to, by joint and figure.
    """

    measured: tuple[Measured, ...] = ()
    cut: tuple[CutMark, ...] = ()
    hold: Mapping[str, str] | None = None
    groove: str = "tail"
    wood: Wood = field(default_factory=WoodOfParts)
    pair: Mapping[str, str] = field(default_factory=dict)
    joints: Mapping[str, Mapping[str, float]] = field(default_factory=dict)

    def as_cut(self, joint: str, figure: str, planned: float) -> float:
        """A figure of a joint as it was cut, else as planned."""
        return self.joints.get(joint, {}).get(figure, planned)


def work_out(piece: Piece, facts: Facts) -> Box:
    """The box that holds the contents with all its parts, measured values in place of planned ones.

    Raises:
        BoxTooSmall, UnknownSpecies: as ``shape``.
    """
    box, lowered, divider_thick = _shape(piece, facts)
    dividers = tuple(str(i + 1) for i in range(piece.dividers))
    parts = _parts(piece, box, lowered, dividers, divider_thick)
    said: dict[str, list[Measured]] = {}
    for m in facts.measured:
        said.setdefault(m.part, []).append(m)
    marks = {m.part: m for m in facts.cut}
    asked = {"bottom": piece.bottom_thickness, "lid": piece.lid_thickness} | dict.fromkeys(SIDES, piece.wall)
    known = (
        _with_what_is_known(p, said.get(p.id, []), marks.get(p.id), asked.get(p.id, piece.divider_thickness))
        for p in parts
    )
    return replace(box, parts=tuple(known))


def shape(piece: Piece, facts: Facts) -> Box:
    """As ``work_out``, without the parts: sizes inside and out, and what the joints are laid out from.

    Raises:
        BoxTooSmall: the sizes leave no room between walls, or for the dividers.
        UnknownSpecies: a species is not in the table.
    """
    return _shape(piece, facts)[0]


def _shape(piece: Piece, facts: Facts) -> tuple[Box, float, list[float]]:
    """The box without parts, the lowered end's height, and the dividers' thicknesses."""
    said: dict[tuple[str, str], float] = {(m.part, "thickness"): m.thickness for m in facts.cut}  # what is cut holds
    said |= {(m.part, m.dimension): m.value for m in facts.measured}  # and what is measured before it
    thick = {s: said.get((s, "thickness"), piece.wall) for s in SIDES}
    dividers = tuple(str(i + 1) for i in range(piece.dividers))
    divider_thick = [said.get((d, "thickness"), piece.divider_thickness) for d in dividers]
    bottom_t = said.get(("bottom", "thickness"), piece.bottom_thickness)
    lid_t = said.get(("lid", "thickness"), piece.lid_thickness)
    run = piece.slope or species(piece.wall_species).slope
    if run < FLATTEST_RUN:
        raise BoxTooSmall(f"A slope of 1 : {run:.3g} is no dovetail's; it lies between 1 : 5 and 1 : 10.")
    depth = grooves.depth_in(min(thick.values()))
    for groove in ("lid groove", "bottom groove"):
        depth = facts.as_cut(groove, "depth", depth)
    half_pin, from_edge, lid_edge = _grooves_and_half_pin(
        piece, facts.groove, run, max(thick.values()), bottom_t, lid_t
    )
    from_edge = facts.as_cut("bottom groove", "from the edge", from_edge)
    lid_edge = facts.as_cut("lid groove", "from the edge", lid_edge)
    chains = planned_chains(piece, from_edge, lid_edge, bottom_t, lid_t)
    outside_l, outside_w, height = (c.total for c in chains)
    hold = facts.hold or {}
    inside_l = outside_l - 2 * piece.wall
    inside_w = outside_w - 2 * piece.wall
    if hold.get("length") == "inside":
        outside_l = inside_l + thick["B"] + thick["D"]
    if hold.get("width") == "inside":
        outside_w = inside_w + thick["A"] + thick["C"]
    outside_l = _as_measured(said, ("A", "C"), "length", outside_l, facts.pair)
    outside_w = _as_measured(said, ("B", "D"), "length", outside_w, facts.pair)
    inside_l = said.get(("opening", "length"), outside_l - thick["B"] - thick["D"])
    inside_w = said.get(("opening", "width"), outside_w - thick["A"] - thick["C"])
    lowered = height - lid_edge - lid_t if piece.lid == "sliding" else height
    bays = _bays_as_cut(facts, thick["D"], inside_l, divider_thick) or _bays(piece, inside_l, divider_thick)
    bay_needed, _, _ = in_a_bay(piece)
    chains = (
        as_it_is(chains[0], "BD", thick, piece.wall, outside_l),
        as_it_is(chains[1], "AC", thick, piece.wall, outside_w),
        chains[2],
    )
    _refuse_if_too_small(inside_l, inside_w, lowered, min(bays))
    centres, at = [], thick["D"]
    for bay, t in zip(bays, divider_thick, strict=False):
        at += bay
        centres.append(at + t / 2)
        at += t
    growth = {"bottom": _growth(piece, facts, "bottom", inside_w + 2 * depth)}
    if piece.lid != "none":
        over = inside_w + 2 * depth if piece.lid == "sliding" else outside_w
        growth["lid"] = _growth(piece, facts, "lid", over)
    box = Box(
        parts=(),
        chains=chains,
        outside=(outside_l, outside_w, height),
        inside=(inside_l, inside_w, height - from_edge - bottom_t),
        thickness=thick,
        half_pin=half_pin,
        run=run,
        groove_depth=depth,
        groove_from_edge=from_edge,
        lid_from_edge=lid_edge,
        dado_depth=facts.as_cut("dadoes", "depth", grooves.depth_in(min(thick["A"], thick["C"]))),
        bays=bays,
        bay_needed=bay_needed,
        dado_centres=tuple(centres),
        bottom_thickness=bottom_t,
        lid_thickness=lid_t,
        divider_thickness=max(divider_thick, default=piece.divider_thickness),
        divider_thicknesses=tuple(divider_thick),
        panel_growth=growth,
        lid_slides=piece.lid == "sliding",
        divider_room=_divider_room(piece, facts, height - from_edge - bottom_t, lid_t + lid_edge),
        problems=_too_tight(piece, min(bays), bay_needed, inside_w, height - from_edge - bottom_t, lid_t + lid_edge),
    )
    return box, lowered, divider_thick


def _bays(piece: Piece, inside: float, divider_thick: list[float]) -> tuple[float, ...]:
    """The clear width of each bay from the left: equal, but for dividers the maker has shifted."""
    count = len(divider_thick)
    equal = (inside - sum(divider_thick)) / (count + 1)
    shift = [0.0, *(*piece.divider_shift, *([0.0] * count))[:count], 0.0]
    return tuple(equal + after - before for before, after in pairwise(shift))


def _bays_as_cut(facts: Facts, start: float, inside: float, divider_thick: list[float]) -> tuple[float, ...]:
    """The clear width of each bay where the dadoes are cut for just so many dividers, each against the near wall of its own; none
    where they are not."""
    near = [facts.as_cut("dadoes", f"dado {n}", math.nan) for n in range(1, len(divider_thick) + 1)]
    if not near or any(map(math.isnan, near)) or f"dado {len(near) + 1}" in facts.joints["dadoes"]:
        return ()
    ends = [start, *(a + t for a, t in zip(near, divider_thick, strict=True))]
    return tuple(b - a for a, b in zip(ends, [*near, start + inside], strict=True))


def _as_measured(
    said: dict[tuple[str, str], float],
    parts: tuple[str, str],
    dimension: str,
    planned: float,
    pair: Mapping[str, str],
) -> float:
    """The pair's measured length, the shorter where they differ unless it is said that the longer holds; the planned one where
    neither is measured."""
    found = [said[(p, dimension)] for p in parts if (p, dimension) in said]
    if not found:
        return planned
    return max(found) if pair.get("".join(parts)) == "longer" else min(found)


def _grooves_and_half_pin(
    piece: Piece, place: str, run: float, mating: float, bottom_t: float, lid_t: float
) -> tuple[float, float, float]:
    """Half pin, and how far bottom and lid groove lie from their edges, so that each lies inside a tail or a half pin."""
    asked = piece.half_pin or round(piece.wall / 2, 1)
    if place == "pin":
        widest = max(bottom_t, lid_t if piece.lid == "sliding" else 0.0)
        half_pin = max(asked, grooves.LEFT_BEHIND + widest + LINE_FREE)
        return half_pin, grooves.LEFT_BEHIND, grooves.LEFT_BEHIND
    clear = max(grooves.LEFT_BEHIND, math.ceil((asked + mating / run + LINE_FREE) * 2) / 2)
    return asked, clear, clear


def _too_tight(
    piece: Piece, bay: float, needed: float, inside_w: float, above_bottom: float, lid_takes: float
) -> tuple[str, ...]:
    """What no longer goes in, one sentence for each way it is too tight."""
    across, _, _ = stands(piece.contents)
    _, tall, held = in_a_bay(piece)
    clear = above_bottom - (lid_takes if piece.lid == "sliding" else 0.0)
    if piece.lid == "lift-off":
        clear -= piece.lid_thickness / 2
    found = []
    for what, has, wants in (("bay", bay, needed), ("width", inside_w, across), ("height", clear, tall)):
        if not at_least(has, wants):
            found.append(f"The {what} inside is {marked(has)}; {held} needs {marked(wants)}.")
    return tuple(found)


def _refuse_if_too_small(inside_l: float, inside_w: float, lowered: float, bay: float) -> None:
    if min(inside_l, inside_w, lowered) < NOTHING_LEFT:
        least = min((inside_l, "length"), (inside_w, "width"), (lowered, "height"))
        raise BoxTooSmall(
            f"The box is too small: its {least[1]} leaves {marked(least[0], unit=' mm')} inside; thin the walls or make the box larger."
        )
    if bay < NOTHING_LEFT:
        raise BoxTooSmall(
            f"The box is too small for its dividers: {marked(bay, unit=' mm')} a bay; take fewer dividers or more length."
        )


def _divider_room(piece: Piece, facts: Facts, above: float, lid_takes: float) -> tuple[float, float] | None:
    """How much the tallest divider has above it under the lid, and how much one grows by the wettest month, mm; None where there is
    no divider or no lid."""
    if not piece.dividers or piece.lid == "none":
        return None
    _, tall, _ = in_a_bay(piece)
    said = {(m.part, m.dimension): m.value for m in facts.measured}
    heights = {str(i + 1): said.get((str(i + 1), "width"), tall) for i in range(piece.dividers)}
    drops = lid_takes if piece.lid == "sliding" else piece.lid_thickness / 2
    tallest = max(heights.values())
    unlike = {(facts.wood.strips(d, piece.panel_species), h): d for d, h in heights.items()}  # most are alike
    grows = max(facts.wood.change(d, piece.panel_species, h)[1] for (_, h), d in unlike.items())
    return above - drops - tallest, max(0.0, grows)


def _growth(piece: Piece, facts: Facts, panel: str, width: float) -> tuple[float, float]:
    """How much a panel's width changes from how it is made to the driest and to the wettest month, mm."""
    return facts.wood.change(panel, piece.panel_species if panel == "bottom" else piece.lid_species, width)


def bottom_size(box: Box) -> tuple[float, float]:
    """Length and width of the bottom: into its grooves all round, kept free by what it may still grow."""
    grow = max(0.0, box.panel_growth["bottom"][1])
    free = 2 * box.groove_depth - FREE
    return box.inside[0] + free, box.inside[1] + free - grow


def _parts(piece: Piece, box: Box, lowered: float, dividers: tuple[str, ...], divider_thick: list[float]) -> list[Part]:
    length, width, height = box.outside
    inside_l, inside_w, _ = box.inside
    depth = box.groove_depth
    parts = []
    for s in SIDES:
        mate = max(box.thickness[m] for m in MATES[s])
        drives = (
            f"baseline on {' and '.join(MATES[s])}",
            "width of the bottom" if s in "AC" else "length of the bottom",
            *(("length of the dividers",) if s in "AC" and dividers else ()),
        )
        parts.append(
            Part(
                s,
                f"{s} {NAMES[s]}",
                length if s in "AC" else width,
                lowered if s == "B" else height,
                box.thickness[s],
                piece.wall_species,
                "show",
                "outside",
                "tails at both ends" if s in "AC" else "pins at both ends",
                group="sides",
                end_zone=mate + box.thickness[s],
                fitted=False,
                in_order=True,
                drives=drives,
            )
        )
    parts.append(
        Part(
            "bottom",
            "bottom",
            *bottom_size(box),
            box.bottom_thickness,
            piece.panel_species,
            "hidden",
            "upper",
            "in the groove, all round",
            long_by=10,
            wide_by=4,
        )
    )
    _, tall, _ = in_a_bay(piece)
    for d, t in zip(dividers, divider_thick, strict=True):
        parts.append(
            Part(
                d,
                f"divider {d}",
                inside_w + 2 * box.dado_depth,
                tall,
                t,
                piece.panel_species,
                "inside",
                "either",
                "in dadoes of A and C",
                group="dividers",
                end_zone=box.dado_depth + t,
                long_by=5,
                drives=("width of its dadoes",),
            )
        )
    if piece.lid == "sliding":
        grow = max(0.0, box.panel_growth["lid"][1])
        parts.append(
            Part(
                "lid",
                "lid",
                inside_l + depth + box.thickness["B"] - FREE,
                inside_w + 2 * depth - grow - FREE,
                box.lid_thickness,
                piece.lid_species,
                "show",
                "upper",
                "slides in A, C and D",
                long_by=10,
                wide_by=4,
                drives=("width of its groove",),
            )
        )
    elif piece.lid == "lift-off":
        parts.append(
            Part(
                "lid",
                "lid",
                length,
                width,
                box.lid_thickness,
                piece.lid_species,
                "show",
                "upper",
                "rabbet all round",
                long_by=10,
                wide_by=4,
            )
        )
    return parts


def _with_what_is_known(part: Part, measured: list[Measured], mark: CutMark | None, thickness: float) -> Part:
    """The part with its own measured sizes, and its sizes as cut where it is marked; ``planned`` keeps the plan's, with the
    ``thickness`` asked for. The part's own thickness is as measured or cut already, because its mates are laid out from it."""
    if not measured and mark is None:
        return part
    said = {m.dimension: m.value for m in measured}
    planned = part.sizes
    length, width = part.length, part.width
    if mark is not None:
        length, width = mark.length, mark.width
        planned = (*planned[:2], said.get("thickness", thickness))
    return replace(
        part,
        length=said.get("length", length),
        width=said.get("width", width),
        cut=mark is not None,
        planned=planned,
        measured=tuple(sorted(said)),
    )
