"""Steps that make a part whole out of what is sawn: resawing into leaves, gluing panels up from staves."""

from __future__ import annotations

from nullah.core import cautions
from nullah.core.document import Board
from nullah.core.measure import marked
from nullah.core.stations.breakdown import BreakdownResult
from nullah.core.stations.piece import PieceResult
from nullah.core.stations.rough import CLEANING, FLAT, resawing
from nullah.core.stations.step import Step


def steps(boards: tuple[Board, ...], piece: PieceResult, breakdown: BreakdownResult) -> list[Step]:
    """Resawing into leaves, and gluing panels up from staves."""
    out, rough = [], breakdown.rough
    by_id = {p.id: p for p in piece.parts}
    for name, leaves in rough.leaves.items():
        part = by_id[rough.gives[name][0]]
        wide = rough.staves.get(part.id, (part.width,))[0]  # leaves of a panel are its staves
        out.append(
            Step(
                f"resaw {name}",
                "trueup",
                f"Resaw {name} into {leaves} leaves",
                f"Gauge {marked(part.thickness + CLEANING)} from each face all round, saw down the line from corner to corner, "
                f"turning the piece end for end; the sawn faces are planed off to {marked(part.thickness)}. Lay the leaves on "
                "stickers overnight: freed wood moves.",
                f"{part.thickness + CLEANING:.1f}",
                part.thickness + CLEANING,
                waits=(f"true {name}",) if breakdown.place(name) else (),
                minutes=5 + resawing(part, wide, leaves - 1)[1],
                cautions=cautions.for_step("break down"),
                parts=(name,),
            )
        )
    for part_id, widths in rough.staves.items():
        part, mine = by_id[part_id], rough.of(part_id)
        kind = "leaves" if any(b in rough.leaves for b in mine) else "staves"
        out.append(
            Step(
                f"glue up {part_id}",
                "trueup",
                f"Glue up {part.name} from {len(widths)} {kind}",
                f"Shoot the edges in pairs, face sides together, so that errors cancel; {_turned(part_id, boards, breakdown)} "
                "Spread, close with clamps above and below by turns about every 100, check flat across. "
                f"{' + '.join(marked(w, 0) for w in widths)} finished.",
                f"{len(widths)} {kind}",
                waits=tuple(f"resaw {b}" if b in rough.leaves else f"true {b}" for b in mine if breakdown.place(b)),
                minutes=15 + 12 * (len(widths) - 1),
                cautions=cautions.for_step("glue"),
                parts=(part_id,),
            )
        )
    return out


def _turned(part: str, boards: tuple[Board, ...], breakdown: BreakdownResult) -> str:
    """Which face of each stave goes up: rings turned about from neighbour to neighbour, or leaves opened like a book."""
    mine = breakdown.rough.of(part)
    if any(b in breakdown.rough.leaves for b in mine):
        return "the two faces the saw parted lie up, mirrored about the joint."
    by_id = {b.id: b for b in boards}
    places = [breakdown.place(b) for b in mine]
    on = [by_id[p[0]] for p in places if p is not None and p[0] in by_id]
    if len(on) < len(mine):
        return "lay the rings of neighbours opposite ways where they lie flat."
    if all(b.ring_angle >= FLAT for b in on):
        return "the rings stand: any face may lie up, choose the figure."
    up = ["heart" if k % 2 else "bark" for k in range(len(on))]
    over = [b for b, want, board in zip(mine, up, on, strict=True) if (board.heart_side == "face") != (want == "heart")]
    sides = ", ".join(f"{b} {side} side up" for b, side in zip(mine, up, strict=True))
    turn = f" (turn {' and '.join(over)} back side up)" if over else ""
    return f"{sides}{turn}, so that cups cancel."


def once(part: str, breakdown: BreakdownResult) -> tuple[str, ...]:
    """The step that makes a part whole, where it is glued up or resawn."""
    rough = breakdown.rough
    if part in rough.staves:
        return (f"glue up {part}",)
    return tuple(f"resaw {b}" for b in rough.of(part) if b in rough.leaves)
