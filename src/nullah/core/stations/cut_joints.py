"""Joints that are cut: where the plan has come to differ from what was cut, that is a conflict to be decided."""

from __future__ import annotations

import math

from nullah.core.document.calls import Call, Change, Option, taken
from nullah.core.document.names import call_of, named
from nullah.core.document.project import Choice, JointMark, Project
from nullah.core.joints.families import FAMILIES
from nullah.core.marking.plan import JointPlan, listed, moved
from nullah.core.pieces.own import Laying
from nullah.core.stations.made import Made
from nullah.core.stations.piece_changes import put
from nullah.core.values.ask import BadAnswer
from nullah.core.values.measure import SAME, marked

_ENDS = ("left end", "lower edge", "back")


def conflicts(made: Made, laying: Laying, choices: tuple[Choice, ...]) -> tuple[Call, ...]:
    """One call for all joints that would be laid out otherwise than they were cut, in like manner."""
    alike: dict[tuple[str, ...], list[JointMark]] = {}
    for mark in made.joints_cut:
        facts = _facts(made, mark, laying.anew.get(mark.joint.removeprefix(made.prefix)))
        if facts:
            alike.setdefault(facts, []).append(mark)
    return tuple(_conflict(made, marks, facts, laying, choices) for facts, marks in alike.items())


def _facts(made: Made, mark: JointMark, now: JointPlan | str | None) -> tuple[str, ...]:
    """What differs, in words; nothing where joint and plan agree."""
    if now is None:
        return ("it is no longer in the plan",)
    if isinstance(now, str):
        return (f"as planned now it could not be: {now.removesuffix('.')}",)
    out = []
    for name, was in mark.figures.items():
        new = now.figures.get(name)
        if new is None:
            out.append(f"{name} {_figure(name, was)} as cut, none in the plan")
        elif abs(new - was) > (SAME if name not in ("tails", "slope") else 1e-6):
            out.append(f"{name} {_figure(name, was)} as cut, {_figure(name, new)} in the plan")
    return tuple(out) or _moved(made, mark, now)


def _moved(made: Made, mark: JointMark, now: JointPlan) -> tuple[str, ...]:
    """Where a joint of the same figures would lie otherwise on its parts."""
    out = []
    for part in made.parts:
        was, new = mark.places.get(part.id), now.places.get(part.id.removeprefix(made.prefix))
        if was is None or new is None:
            continue
        for k, end in enumerate(_ENDS):
            if moved(was, new)[k]:
                near, now_near = marked(was[2 * k]), marked(new[2 * k])
                words = _upright(made, part.id) or end if k == 0 else end
                out.append(f"{near} from the {words} of {made.label(part)} as cut, {now_near} in the plan")
    return tuple(out)


def _upright(made: Made, part: str) -> str:
    """What the left end of a part is that stands upright, "" of another."""
    if made.worked is None:
        return ""
    up = made.worked.sizes.stands(part.removeprefix(made.prefix)).axes[0][2]
    return "" if abs(up) < 0.5 else "lower end" if up > 0 else "upper end"


def _figure(name: str, value: float) -> str:
    if name == "tails":
        return f"{value:g}"
    return f"1 : {value:g}" if name == "slope" else marked(value)


def _conflict(
    made: Made,
    marks: list[JointMark],
    facts: tuple[str, ...],
    laying: Laying,
    choices: tuple[Choice, ...],
) -> Call:
    names = [_name(m.joint.removeprefix(made.prefix), laying) for m in marks]
    first = marks[0]
    now = laying.anew.get(first.joint.removeprefix(made.prefix))
    ids = frozenset(m.joint for m in marks)
    options = [
        Option(
            "keep",
            "keep what is cut",
            ("it stays as it was cut", "what is still to be made of it follows the wood, not what is asked"),
        ),
        Option(
            "again",
            "cut it again",
            ("its parts are made again", "or the joint is moved along where there is wood"),
            _unmarked(made.id, ids),
        ),
    ]
    back = _as_cut(made, marks, now) if isinstance(now, JointPlan) else None
    if back is not None:
        words, change = back
        options.insert(0, Option("follow", "the plan goes back to what is cut", (words,), change))
    asked = f"{', '.join(sorted(ids))}: {'; '.join(facts)}"[:2000]
    said = (*facts[:3], *(("and more",) if len(facts) > 3 else ()))
    call_id = call_of("cut", first.joint, made.id)
    return Call(
        call_id,
        "joints",
        f"{listed(tuple(names))} {'is' if len(names) == 1 else 'are'} cut: {'; '.join(said)}.",
        tuple(options),
        options[0].id,
        "what is cut stays; no wood is lost",
        asked,
        parts=tuple(dict.fromkeys(p for m in marks for p in m.parts)),
        conflict=True,
        taken=taken(call_id, tuple(options), asked, choices),
    )


def _as_cut(made: Made, marks: list[JointMark], now: JointPlan) -> tuple[str, Change] | None:
    """What is asked of the joints as they were cut, in words and as a change; None where nothing of it can be asked."""
    if made.own is not None:
        return made.own.as_cut(marks[0], now)
    asks = {a.name.replace("_", " "): a for a in FAMILIES[now.family].asks}
    off = {
        n: v for n, v in marks[0].figures.items() if n in asks and abs(now.figures.get(n, math.inf) - v) > SAME
    }  # what follows from these goes back with them
    if not off:
        return None
    try:
        held = {n: asks[n].held(int(v) if asks[n].type == "whole" else v) for n, v in off.items()}
    except BadAnswer:
        return None
    back = tuple((m.joint.removeprefix(made.prefix), asks[n].name, v) for m in marks for n, v in held.items())
    return ", ".join(f"{n} {_figure(n, v)}" for n, v in off.items()), put(made.id, back)


def _name(joint: str, laying: Laying) -> str:
    """What a joint is called in a sentence, by its own id."""
    laid = next((j for j in laying.joints if j.id == joint), None)
    return laid.name.partition(":")[0] if laid is not None else joint.capitalize()


def _unmarked(piece_id: str, joints: frozenset[str]) -> Change:
    """The joints are to be cut again: no longer cut, their steps no longer done."""

    def change(project: Project) -> Project:
        cut = project.of_piece(piece_id).marks.joints_cut
        after = project.with_marks(piece_id, joints_cut=tuple(m for m in cut if named(m.joint, piece_id) not in joints))
        return after.without_steps({f"joint {j}" for j in joints})

    return change
