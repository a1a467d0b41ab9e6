"""What an edit changed downstream: the facts each station states, and which of them differ between two plans."""

from __future__ import annotations

from collections.abc import Callable, Mapping

from nullah.core.planning.plan import Plan
from nullah.core.values.frozen import frozen
from nullah.core.values.measure import marked

Facts = Mapping[str, str]  # what, in words -> how much, in words (lengths marked)


@frozen
class Change:
    """One fact that is no longer what it was; ``was`` or ``now`` is "" where it was not there or is gone."""

    what: str
    was: str
    now: str

    @property
    def words(self) -> str:
        """The change as one line."""
        if not self.was:
            return f"{self.what}: {self.now}, new"
        return f"{self.what}: {self.was} \u2192 {self.now}" if self.now else f"{self.what}: {self.was}, gone"


def facts(plan: Plan, station: str) -> Facts:
    """What a station states."""
    return _FACTS[station](plan)


def made_from(plan: Plan, station: str) -> object:
    """What a station's facts are read from: while it is the same object, so are they."""
    return getattr(plan, station)


def no_more(before: Plan, after: Plan) -> tuple[str, ...]:
    """Titles of steps that were done and are not among the steps any more, each once."""
    if before.bench is after.bench:
        return ()
    still = {s.id for s in after.bench.steps}
    return tuple(dict.fromkeys(s.title for s in before.bench.steps if s.done and s.id not in still))


def _timber(plan: Plan) -> Facts:
    called = plan.piece.called
    moves = {
        f"{called(m.part)} across the year": f"{marked(m.to_dry)} to {marked(m.to_wet)}" for m in plan.timber.movement
    }
    return moves | {f"{n} sound": f"{marked(s.x0)} to {marked(s.x1)}" for n, s in plan.timber.spans.items()}


def _trueup(plan: Plan) -> Facts:
    return {f"{t.name} once flat": marked(t.planing.thickest) for t in (*plan.trueup.boards, *plan.trueup.parts)}


def _together(plan: Plan) -> Facts:
    return {"the frame": " x ".join(marked(v) for v in plan.together.frame)} if plan.together else {}


def _bench(plan: Plan) -> Facts:
    return {"steps": str(len(plan.bench.steps)), "left to do": f"{plan.bench.minutes_left / 60:.1f} h"}


def _piece(plan: Plan) -> Facts:
    out = {}
    for p in plan.piece.parts:
        for name, value in zip(("length", "width", "thickness"), p.sizes, strict=True):
            out[f"{plan.piece.called(p.id)} {name}"] = marked(value)
    return out


def _breakdown(plan: Plan) -> Facts:
    out = {}
    for b in plan.breakdown.blanks:
        name = plan.piece.called(b.id)
        out[f"{name} in the rough"] = f"{marked(b.length)} x {marked(b.width)}"
        place = plan.breakdown.place(b.id)
        out[f"{name} lies on"] = f"{place[0]} at {marked(place[1].x)}, {marked(place[1].y)}" if place else "no board"
    if plan.breakdown.problems:
        out["the layout"] = plan.breakdown.problems[0]
    return out


def _joints(plan: Plan) -> Facts:
    out = {}
    for joint in plan.joints.joints:
        for s in joint.settings:
            what = f"{joint.name.partition(':')[0]}, {s.tool}, {s.use}"
            out[what] = s.text if s.value is None else marked(s.value)
    return out


_FACTS: dict[str, Callable[[Plan], Facts]] = {
    "piece": _piece,
    "timber": _timber,
    "breakdown": _breakdown,
    "trueup": _trueup,
    "joints": _joints,
    "together": _together,
    "bench": _bench,
}


def between(old: Facts, new: Facts, told: Callable[[str], str] = str) -> tuple[Change, ...]:
    """The facts that differ, in the order they are stated now, then those that are gone; ``told``: as they are shown, so that what is
    the same to the eye is no change."""
    out = []
    for what, now in new.items():
        was = old.get(what, "")
        if was != now and (not was or told(was) != told(now)):
            out.append(Change(what, was, now))
    return (*out, *(Change(what, was, "") for what, was in old.items() if what not in new))
