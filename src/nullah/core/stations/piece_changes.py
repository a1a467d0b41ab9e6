"""Changes of a project's pieces and of what is marked of their parts: what calls and edits make of it."""

from __future__ import annotations

from nullah.core.document.calls import Change
from nullah.core.document.names import bare
from nullah.core.document.pieces import AddPart, Designed, Drop, Put
from nullah.core.document.project import BoardLayout, CutMark, Project
from nullah.core.layout.model import leaves
from nullah.core.layout.progress import without_parts
from nullah.core.pieces.look import DIMENSIONS, LIES
from nullah.core.pieces.part import Part
from nullah.core.stations.as_made import parts_named
from nullah.core.stations.made import Made


def put(piece_id: str, values: tuple[tuple[str, str, float | str | bool], ...]) -> Change:
    """The change that writes figures by hand in a designed piece: (owner, what, value) each; of a part that was added by hand its own
    sizes are changed."""

    def change(project: Project) -> Project:
        piece = next((p for p in project.pieces if p.id == piece_id), None)
        if not isinstance(piece, Designed):
            return project
        edits = list(piece.edits)
        for name, what, value in values:
            at = next(
                (i for i, e in enumerate(edits) if isinstance(e, AddPart) and e.id == name and what in DIMENSIONS), None
            )
            if at is not None:
                edits[at] = edits[at].model_copy(update={what: value, LIES[what]: None})
                continue
            edits = [e for e in edits if not (isinstance(e, Put) and (e.owner, e.what) == (name, what))]
            edits.append(Put(owner=name, what=what, value=value))
        return project.with_design(piece.model_copy(update={"edits": tuple(edits)}))

    return change


def dropped(project: Project, piece_id: str, name: str) -> Project:
    """The project with a part or a joint taken away by hand: one that was added goes for good, one the kind foresees is set aside."""
    piece = next((p for p in project.pieces if p.id == piece_id), None)
    if not isinstance(piece, Designed):
        return project
    own = [e for e in piece.edits if getattr(e, "id", "") == name and not isinstance(e, Drop)]
    kept = tuple(e for e in piece.edits if e not in own)
    edits = kept if own else (*kept, Drop(id=name))
    return project.with_design(piece.model_copy(update={"edits": edits}))


def thinner(made: Made, parts: tuple[Part, ...], to: float) -> Change | None:
    """The change that makes these parts, and those like them, so thick; None where nothing sets it."""
    if made.own is not None:
        local = parts[0].id.removeprefix(made.prefix)
        return made.own.thinner(next(p for p in made.own.parts if p.id == local), to)
    group = parts[0].group
    alike = [p for p in made.parts if p in parts or (group and p.group == group)]
    return put(made.id, tuple((p.id.removeprefix(made.prefix), "thickness", to) for p in alike))


def without_mark(part: Part) -> Change:
    """The change that takes a part's mark as cut away: it is to be made again, from other wood than it was laid on."""

    def change(project: Project) -> Project:
        name = bare(part.id, part.piece)
        after = project.with_marks(
            part.piece, cut=tuple(m for m in project.of_piece(part.piece).marks.cut if m.part != name)
        )
        if after.layout is None:
            return after
        boards = tuple(without_parts(b, _made_only(part.id, b)) for b in after.layout.boards)
        after = after.model_copy(update={"layout": after.layout.model_copy(update={"boards": boards})})
        return after.without_steps((f"cut {part.id}", f"true {part.id}"))

    return change


def _made_only(part: str, board: BoardLayout) -> frozenset[str]:
    """What is laid on a board for a part and no other: the part in one piece, or staves of it."""
    laid = {n.part for n in leaves(board.root) if n.use == "part"}
    return frozenset(n for n in laid if part in parts_named(n) and "+" not in n.removeprefix(f"{part} "))


def marked_at(part: Part, sizes: tuple[float, float, float]) -> Change:
    """The change that marks a part as cut to these sizes."""

    def change(project: Project) -> Project:
        mark = CutMark(part=bare(part.id, part.piece), length=sizes[0], width=sizes[1], thickness=sizes[2])
        return project.with_mark(part.piece, mark)

    return change
