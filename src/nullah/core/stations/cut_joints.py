"""Joints that are cut: where the plan has come to differ from what was cut, that is a conflict to be decided."""

from __future__ import annotations

from nullah.core.calls import Call, Change, Option, taken
from nullah.core.document import Choice, JointMark, Project
from nullah.core.joints.plan import JointPlan
from nullah.core.measure import SAME, marked
from nullah.core.stations.made import Made

_FOLLOWING = ("tails", "pin", "half pin", "slope", "width")  # said first; of what follows from them only what is left


def conflicts(
    made: Made, joints: tuple[JointPlan, ...], cut: tuple[JointMark, ...], choices: tuple[Choice, ...]
) -> tuple[Call, ...]:
    """One call for all joints that differ alike from what was cut."""
    by_id = {j.id: j for j in joints}
    alike: dict[tuple[str, ...], list[JointMark]] = {}
    for mark in cut:
        facts = _facts(mark, by_id.get(mark.joint))
        if facts:
            alike.setdefault(facts, []).append(mark)
    return tuple(_conflict(made, marks, facts, by_id, choices) for facts, marks in alike.items())


def _facts(mark: JointMark, now: JointPlan | None) -> tuple[str, ...]:
    """What differs, in words; nothing where joint and plan agree."""
    if now is None:
        return ("it is no longer in the plan",)
    out = []
    for name, was in mark.figures.items():
        new = now.figures.get(name)
        if new is None:
            out.append(f"{name} {_figure(name, was)} as cut, none in the plan")
        elif abs(new - was) > (SAME if name not in ("tails", "slope") else 1e-6):
            out.append(f"{name} {_figure(name, was)} as cut, {_figure(name, new)} in the plan")
    return tuple(out)


def _figure(name: str, value: float) -> str:
    if name == "tails":
        return f"{value:g}"
    return f"1 : {value:g}" if name == "slope" else marked(value)


def _conflict(
    made: Made,
    marks: list[JointMark],
    facts: tuple[str, ...],
    by_id: dict[str, JointPlan],
    choices: tuple[Choice, ...],
) -> Call:
    names = [by_id[m.joint].name.partition(":")[0] if m.joint in by_id else m.joint.capitalize() for m in marks]
    first = marks[0]
    ids = frozenset(m.joint for m in marks)
    options = [
        Option(
            "keep",
            "keep what is cut",
            ("the plan stays as it is", "the halves are laid out from each other, not from it"),
        ),
        Option(
            "again",
            "cut it again",
            ("its parts are made again", "or the joint is moved along where there is wood"),
            _unmarked(ids),
        ),
    ]
    back = made.own.as_cut(first, by_id.get(first.joint)) if made.own is not None else None
    if back is not None:
        words, change = back
        options.insert(0, Option("follow", "the plan goes back to what is cut", (words,), change))
    asked = f"{', '.join(sorted(ids))}: {'; '.join(facts)}"[:2000]
    call_id = f"cut {first.joint}"
    return Call(
        call_id,
        "joints",
        f"{', '.join(names)} {'is' if len(names) == 1 else 'are'} cut: {'; '.join(facts[:3])}{'; and more' if len(facts) > 3 else ''}.",
        tuple(options),
        options[0].id,
        "what is cut stays; no wood is lost",
        asked,
        parts=tuple(dict.fromkeys(p for m in marks for p in m.parts)),
        conflict=True,
        taken=taken(call_id, tuple(options), asked, choices),
    )


def _unmarked(joints: frozenset[str]) -> Change:
    """The joints are to be cut again: no longer cut, their steps no longer done."""

    def change(project: Project) -> Project:
        kept = tuple(m for m in project.joints_cut if m.joint not in joints)
        done = tuple(d for d in project.done if d.removeprefix("joint ") not in joints or not d.startswith("joint "))
        return project.model_copy(update={"joints_cut": kept, "done": done})

    return change
