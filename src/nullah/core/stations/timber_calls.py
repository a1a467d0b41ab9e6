"""What a board asks: how far an end is cut back, what is done with sapwood and grain that runs out, which face is planed first."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence

from nullah.core.document.calls import Call, Change, Option, some, taken, unchanged
from nullah.core.document.project import AcceptedLayout, Board, Choice, Defect, Node, Project, Reading
from nullah.core.layout.model import leaves
from nullah.core.pieces.part import Part
from nullah.core.surface.readings import Surface
from nullah.core.values.frozen import frozen
from nullah.core.values.measure import at_least, marked
from nullah.core.wood.species import species

RUNS_ON = 25.0  # mm a check or split runs further than it shows (common practice, no source)
AT_END = 8.0  # mm: a check that begins nearer than this to an end is an end check
LITTLE = 2.0  # mm of wood over a knot: planing may bring it through (common practice)
AT_EDGE = 3.0  # mm: a strip that lies so near to an edge lies along it
WEAK = math.degrees(
    math.atan(1 / 10)
)  # grain that runs out as steeply or more is felt in bending (Wood Handbook, slope of grain, from
# memory), and not trusted with a load; at 1 in 6 it breaks
BREAKS = math.degrees(math.atan(1 / 6))


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


# ---- faults within a board


@frozen
class _Way:
    """An option, and what it makes of the fault: the fault as parts are to be laid round it, None where it is no matter."""

    option: Option
    fault: Defect | None


@frozen
class _Question:
    """What is asked of a fault, before it is known what was taken."""

    call: str
    words: str
    ways: tuple[_Way, ...]
    recommended: str
    why: str
    differ: str
    asked: str


def faults_in_force(
    board: Board, surface: Surface, choices: tuple[Choice, ...]
) -> tuple[tuple[Defect, ...], list[Call]]:
    """The faults that parts are laid round, as the calls in force have them, and those calls.

    Args:
        surface: the board's surface as it is read.
    """
    kept: list[Defect] = []
    calls: list[Call] = []
    for fault in board.defects:
        if fault.bears != "by role":
            kept += [_refused(fault)] if fault.bears == "no part" else []
            continue
        asked = _asked_of(board, fault, surface)
        if asked is None:
            kept.append(fault)
            continue
        options = tuple(w.option for w in asked.ways)
        call = Call(
            asked.call,
            "timber",
            asked.words,
            options,
            asked.recommended,
            asked.why,
            asked.asked,
            asked.differ,
            board=board.id,
            taken=taken(asked.call, options, asked.asked, choices),
        )
        calls.append(call)
        now = next(w.fault for w in asked.ways if w.option.id == call.in_force)
        if now is not None:
            kept.append(now)
    return tuple(kept), calls


def _asked_of(board: Board, fault: Defect, surface: Surface) -> _Question | None:
    """What is asked of a fault; None where nothing is."""
    if fault.kind == "sapwood":
        return _sapwood(board, fault)
    if fault.kind == "wane" and _along(board, fault)[0]:
        return _natural_edge(board, fault)
    if fault.kind == "run-out" and fault.angle > 0:
        return _run_out(board, fault)
    if fault.depth > 0 and fault.face != "both" and "knot" in fault.kind:
        return _near_under(board, fault, surface)
    return None


def _refused(fault: Defect) -> Defect:
    """A fault that no part may hold, whatever its role."""
    return fault.model_copy(update={"kind": "fault", "face": "both"})


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


def turned_over(project: Project, board_id: str) -> Project:
    """The project with a board turned over its long edge: what was its back is its face, its lower edge its upper."""
    boards = tuple(_over(b) if b.id == board_id else b for b in project.boards)
    photos = tuple(
        p.model_copy(update={"side": OTHER[p.side]}) if p.board == board_id else p for p in project.board_photos
    )
    return project.model_copy(update={"boards": boards, "board_photos": photos})


OTHER = {
    "face": "back",
    "back": "face",
    "lower": "upper",
    "upper": "lower",
    "both": "both",
    "neither": "neither",
    "left": "right",
    "right": "left",
    "": "",
}


def _over(b: Board) -> Board:
    faults = tuple(
        d.model_copy(update={"y": max(0.0, b.width - d.y - d.width), "face": OTHER[d.face]}) for d in b.defects
    )
    edges = {
        which: tuple((x, min(b.width, max(0.0, b.width - y))) for x, y in getattr(b, OTHER[which]))
        for which in ("upper", "lower")
    }
    sides = {"heart_side": OTHER[b.heart_side], "pith": OTHER[b.pith], "straight_edge": OTHER[b.straight_edge]}
    sides["rises"] = OTHER[b.rises]
    return b.model_copy(update={"defects": faults, **edges, **sides})


def _along(board: Board, fault: Defect) -> tuple[bool, bool]:
    """Whether a strip lies along an edge, and whether that is the upper one."""
    upper = fault.y + fault.width >= board.width - AT_EDGE
    return upper or fault.y <= AT_EDGE, upper


def _face_edge(board: Board, edge: str) -> Change:
    """The change that puts a board's face edge on an edge, so that all is measured from there."""

    def change(project: Project) -> Project:
        boards = tuple(b.model_copy(update={"straight_edge": edge}) if b.id == board.id else b for b in project.boards)
        return project.model_copy(update={"boards": boards})

    return change


def _natural_edge(board: Board, fault: Defect) -> _Question:
    """A wany edge sawn off, or kept for its look: then no joint is cut on it, and all is measured from the other edge."""
    _, upper = _along(board, fault)
    off = board.width - fault.y if upper else fault.y + fault.width
    opposite = "lower" if upper else "upper"
    ways = (
        _Way(
            Option(
                "off",
                "saw it off",
                (f"{marked(off, unit=' mm')} off there, {marked(max(0.0, board.width - off))} left",),
            ),
            fault,
        ),
        _Way(
            Option(
                "keep",
                "keep it for its look",
                (f"no joint on it; measured from the {opposite} edge",),
                _face_edge(board, opposite),
            ),
            None,
        ),
    )
    return _Question(
        f"natural {board.id} {fault.id}",
        f"{board.name} has a natural edge over {marked(fault.length)}. Saw it off or keep it?",
        ways,
        "off",
        "a joint needs square wood",
        "Kept, it is left as it is and takes no joint.",
        f"wane {fault.id} {fault.width:.0f} wide at {fault.y:.0f}",
    )


def _sapwood(board: Board, fault: Defect) -> _Question:
    """Keep, hide or cut off a strip of sapwood; decided after the first clean pass, with the face edge put opposite."""
    along, upper = _along(board, fault)
    off = board.width - fault.y if upper else fault.y + fault.width
    left = (
        f"{marked(off, unit=' mm')} off the width, {marked(max(0.0, board.width - off))} left" if along else "cut round"
    )
    opposite = "lower" if upper else "upper"

    face_edge = _face_edge(board, opposite) if along else unchanged
    ways = (
        _Way(Option("hide", "hide it", ("on inside and hidden faces alone",), face_edge), fault),
        _Way(Option("keep", "keep it", ("show parts may have it too",), face_edge), None),
        _Way(Option("off", "cut it off", (left,), face_edge), _refused(fault)),
    )
    return _Question(
        f"sap {board.id} {fault.id}",
        f"{board.name} has a strip of sapwood {marked(fault.width)} wide. Keep it, hide it or cut it off?",
        ways,
        "hide",
        f"with the face edge on the {opposite} edge it can still be cut off after the first clean pass"
        if along
        else "a clean pass shows its colour",
        "Some makers cut all sapwood off, some make a feature of it.",
        f"sapwood {fault.id} {fault.width:.0f} wide at {fault.y:.0f}",
    )


def _run_out(board: Board, fault: Defect) -> _Question:
    """Grain that leaves the face: no load on it, or figure to enjoy."""
    steep, run = fault.angle >= WEAK, 1 / math.tan(math.radians(min(89.0, fault.angle)))
    lost = f"{marked(fault.length)} x {marked(fault.width)} lost"
    ways = (
        _Way(Option("light", "for light work", ("hidden parts may have it, legs and stretchers not",)), fault),
        _Way(Option("reject", "reject it", (f"no part is laid over it: {lost}",)), _refused(fault)),
        _Way(Option("figure", "enjoy it as figure", ("panels may show it; plane it from both sides",)), None),
    )
    return _Question(
        f"load {board.id} {fault.id}",
        f"{board.name}: the grain runs out at {fault.angle:.0f}\u00b0, 1 in {run:.0f}, over {marked(fault.length)}. "
        "What may be made of it?",
        ways,
        "reject" if steep else "light",
        "grain that runs out 1 in 6 or steeper breaks under a load"
        if fault.angle >= BREAKS
        else "grain that runs out 1 in 10 or steeper is felt in bending"
        if steep
        else "weaker under a load, sound enough where there is none",
        "A turned or bent part wants grain straighter still.",
        f"run-out {fault.id} {fault.angle:.0f}",
    )


def _near_under(board: Board, fault: Defect, surface: Surface) -> _Question:
    """A knot that lies near under a face: what truing leaves over it says which face is planed first."""
    takes = _comes_off(surface, fault)
    over = fault.depth - takes
    other = "back" if fault.face == "face" else "face"
    near = at_least(LITTLE, over)
    through = fault.model_copy(update={"depth": 0.0})
    words = f"truing takes about {marked(takes)} there, {marked(max(0.0, over))} stays over it"
    lost = f"{marked(fault.length)} x {marked(fault.width)} lost"
    ways = (
        _Way(Option("other", f"the {other} first, this {fault.face} last", (words,)), fault if near else None),
        _Way(Option("through", "plane down to it", (f"it shows on the {fault.face}",)), through),
        _Way(Option("avoid", "lay nothing over it", (lost,)), _refused(fault)),
    )
    return _Question(
        f"near {board.id} {fault.id}",
        f"{board.name}: a {fault.kind} lies {marked(fault.depth)} under the {fault.face}. Which face is planed first?",
        ways,
        "through" if near else "other",
        f"less than {marked(LITTLE)} would stay over it" if near else "enough stays over it",
        "Planing may bring it through sooner than reckoned: look after each pass.",
        f"{fault.kind} {fault.id} {fault.depth:.1f} under, {takes:.1f} off",
    )


def _comes_off(surface: Surface, fault: Defect) -> float:
    """What truing takes off the face or the back where a fault lies, mm, by the readings."""
    flat = surface.to_flat(0.0, 0.0, surface.length, surface.width)
    x, y = fault.x + fault.length / 2, fault.y + fault.width / 2
    i = min(range(len(flat.x)), key=lambda n: abs(flat.x[n] - x))
    j = min(range(len(flat.y)), key=lambda n: abs(flat.y[n] - y))
    return float((flat.face if fault.face == "face" else flat.back)[i][j])
