"""What a board asks: how far an end is cut back, which face shows, and whether it is used where it is too thin."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from nullah.core.document.calls import Call, Option, some, taken
from nullah.core.document.project import AcceptedLayout, Board, Choice, Defect, Node, Project, Reading
from nullah.core.layout.model import leaves
from nullah.core.pieces.part import Part
from nullah.core.stations.turned_over import turned_over
from nullah.core.values.measure import at_least, marked
from nullah.core.wood.species import species

RUNS_ON = 25.0  # mm a check or split runs further than it shows (common practice, no source)
AT_END = 8.0  # mm: a check that begins nearer than this to an end is an end check


def laid_on(layout: AcceptedLayout | None) -> dict[str, tuple[Node, ...]]:
    """The parts that lie on each board of a layout, by its id."""
    boards = layout.boards if layout is not None else ()
    return {b.board: tuple(n for n in leaves(b.root) if n.use == "part") for b in boards}


def lost_by(call: Call, board: Board, fault: Defect, end: str) -> float:
    """How much of an end the option in force takes, mm."""
    seen = _reach(fault, board, end)
    return {"clean": seen + RUNS_ON, "seen": seen, "keep": 0.0}[call.in_force]


def end_of(fault: Defect, board: Board) -> str:
    """Which end a check or split runs in from, ``left`` or ``right``; "" where it is none of an end."""
    if fault.kind not in ("check", "split"):
        return ""
    if fault.x <= AT_END:
        return "left"
    return "right" if fault.x + fault.length >= board.length - AT_END else ""


def _reach(fault: Defect, board: Board, end: str) -> float:
    return fault.x + fault.length if end == "left" else board.length - fault.x


def end_call(
    board: Board,
    fault: Defect,
    end: str,
    other: float,
    wanted: float,
    choices: tuple[Choice, ...],
    laid: Sequence[Node] = (),
    called: Callable[[str], str] = str,
) -> Call:
    """How far to cut an end check back: soundness against length still needed.

    Args:
        other: what the other end loses, mm. wanted: what the sides would take of this board in sequence, mm; 0 where they would not
            lie on it. laid: the parts that lie on the board now; called: what one is called by its id.
    """
    seen = _reach(fault, board, end)
    whole = board.length - other

    def left(off: float) -> str:
        return f"{marked(off, unit=' mm')} lost, {marked(max(0.0, whole - off))} left"

    def cut_into(off: float) -> str:
        """What is laid there now, and is to be laid elsewhere then."""
        gone = [n.part for n in laid if (n.x < off if end == "left" else n.x + n.length > board.length - off)]
        return f"no longer fits there: {some(list(map(called, gone)))}" if gone else ""

    options = (
        Option(
            "clean",
            f"cut at {marked(seen + RUNS_ON)}",
            (left(seen + RUNS_ON), cut_into(seen + RUNS_ON) or "past where a check runs on unseen"),
        ),
        Option(
            "seen", f"cut at {marked(seen)}", (left(seen), cut_into(seen) or "may still show a hair line in the end")
        ),
        Option("keep", "keep the end", (left(0), f"nothing is laid over the {fault.kind} itself")),
    )
    enough = at_least(whole - seen - RUNS_ON, wanted)
    asked = f"{fault.kind} {fault.id} reaches {seen:.0f} into {board.length:.0f}"
    call_id = f"end {board.id} {fault.id}"
    return Call(
        call_id,
        "timber",
        f"{board.name}, {end} end: the {fault.kind} shows for {marked(seen)}. Where is it cut back to?",
        options,
        "clean" if (enough if wanted else True) or whole > 2 * (seen + RUNS_ON) else "seen",
        f"checks run on about {marked(RUNS_ON)} further than they show"
        + (f", and {marked(whole - seen - RUNS_ON)} still holds the sides in sequence" if enough and wanted else ""),
        asked,
        differ="A small crack may be lived with where it is hidden.",
        board=board.id,
        taken=taken(call_id, options, asked, choices),
    )


MARRED = (
    "sound knot",
    "loose knot",
    "stain",
    "worm",
    "resin",
    "nail hole",
    "old mark",
    "fault",
)  # what a face is the worse for


def face_call(board: Board, read: bool, choices: tuple[Choice, ...]) -> Call | None:
    """Which face shows, where the face is the worse of the two; reversible until anything is read of it or sawn.

    Args:
        read: whether anything was read off the board's face, which is its face side then.
    """
    seen = {
        side: [d for d in board.defects if d.face == side and d.depth == 0 and d.kind in MARRED]
        for side in ("face", "back")
    }
    worse, better = seen["face"], seen["back"]
    if read or board.sawn or len(worse) <= len(better):
        return None
    call_id, asked = f"face {board.id}", f"{len(worse)} faults on the face, {len(better)} on the back"
    on_back = some([d.kind for d in better]) if better else "no fault"

    def over(project: Project) -> Project:
        return turned_over(project, board.id)

    options = (
        Option(
            "turn",
            "show the back",
            (f"{on_back} on what is the back now", "face side and face edge are marked there"),
            over,
        ),
        Option("keep", "show this face", (f"{some([d.kind for d in worse])} on it",)),
    )
    return Call(
        call_id,
        "timber",
        f"{board.name}: its face has {some([d.kind for d in worse])}, its back {on_back}. Which face shows?",
        options,
        "turn",
        "fewer faults on it; it can be turned back until the face side is read",
        asked,
        differ="Figure may be worth a knot: some makers show the livelier face.",
        board=board.id,
        taken=taken(call_id, options, asked, choices),
    )


def thin_call(
    board: Board, parts: Sequence[Part], readings: Sequence[Reading], laid: Sequence[Node], choices: tuple[Choice, ...]
) -> Call | None:
    """A board that is too thin, or too cupped, for every part of its wood: a cup of so much takes so much off the thickness, and ripped
    down the middle each half keeps a quarter of it (geometry of the circle)."""
    wanted = min(
        (p.thickness for p in parts if not p.cut and species(p.species) is species(board.species)), default=0.0
    )
    cup = max((abs(r.value) for r in readings if r.target == board.id and r.kind == "cup"), default=0.0)
    left = board.thickness - cup
    if board.sawn or laid or not wanted or at_least(left, wanted):
        return None
    halves = board.thickness - cup / 4
    rip = cup > 0 and at_least(halves, wanted)
    call_id = f"thin {board.id}"
    told = f"{marked(max(0.0, left))} at most, {marked(wanted)} wanted"

    def aside(project: Project) -> Project:
        return project.model_copy(update={"whole": tuple(dict.fromkeys((*project.whole, board.id)))})

    options = (
        Option("aside", "put it aside", (told, "nothing is laid on it"), aside),
        *((Option("rip", "rip it down the middle first", (f"each half gives {marked(halves)}",)),) if rip else ()),
        Option("use", "use it all the same", ("for what is found to want less",)),
    )
    facts = f"{left:.1f} of {wanted:.1f}, cup {cup:.1f}"
    return Call(
        call_id,
        "timber",
        f"{board.name} is too {'cupped' if board.thickness >= wanted else 'thin'} for any part of its wood. Use it?",
        options,
        "rip" if rip else "aside",
        "half as wide it is a quarter as hollow" if rip else "no part comes out of it at its thickness",
        facts,
        board=board.id,
        taken=taken(call_id, options, facts, choices),
    )
