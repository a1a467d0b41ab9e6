"""What a fault within a board asks: what is done with sapwood, a natural edge, grain that runs out, a knot near under a face."""

from __future__ import annotations

import math

from nullah.core.document.calls import Call, Change, Option, taken, unchanged
from nullah.core.document.project import Board, Choice, Defect, Project
from nullah.core.surface.readings import Surface
from nullah.core.values.frozen import frozen
from nullah.core.values.measure import at_least, marked

LITTLE = 2.0  # mm of wood over a knot: planing may bring it through (common practice)
AT_EDGE = 3.0  # mm: a strip that lies so near to an edge lies along it
WEAK = math.degrees(
    math.atan(1 / 10)
)  # grain that runs out as steeply or more is felt in bending (Wood Handbook, slope of grain, from
# memory), and not trusted with a load; at 1 in 6 it breaks
BREAKS = math.degrees(math.atan(1 / 6))


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
