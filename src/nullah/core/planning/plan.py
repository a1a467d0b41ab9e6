"""``plan(project)``: the stations in order, cached on what each reads, with the calls and the steps gathered."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import Any, TypeVar

from nullah.core.document.calls import Call
from nullah.core.document.pieces import WHOLE
from nullah.core.document.project import Project
from nullah.core.layout.model import Layout
from nullah.core.marking.plan import Setting, gathered
from nullah.core.stations import (
    arranged,
    as_made,
    bench,
    breakdown,
    breakdown_calls,
    clash_calls,
    joint_zones,
    joints,
    piece,
    rates,
    rough,
    rough_steps,
    short_of_wood,
    surfaces,
    timber,
    together,
    trueup,
)
from nullah.core.stations.made import PieceResult
from nullah.core.stations.together import TogetherResult
from nullah.core.values.frozen import frozen
from nullah.core.values.measure import marked

STATIONS = ("piece", "timber", "breakdown", "trueup", "joints", "together", "bench")
TITLES = {
    "piece": "Piece",
    "timber": "Timber",
    "breakdown": "Break-down",
    "trueup": "True-up",
    "joints": "Joints",
    "together": "Together",
    "bench": "Bench book",
}
R = TypeVar("R")
Found = tuple[str, tuple[Layout, ...]]  # the fingerprint answered, and layouts


@dataclass
class PlanCache:
    """Owned by the caller: each station's last inputs and result. An edit recomputes only what reads what changed."""

    kept: dict[str, tuple[tuple[Any, ...], Any]] = field(default_factory=dict)
    worked: list[str] = field(default_factory=list)
    only: frozenset[str] | None = None  # stations worked while something is dragged; the others stay as they were

    def station(self, name: str, work: Callable[..., R], *inputs: Any) -> R:
        """The kept result where every input is the same object or equal, else a fresh one."""
        old = self.kept.get(name)
        if old is not None and self.only is not None and name not in self.only:
            return old[1]  # type: ignore[no-any-return]  # it was put there by the same work
        result = self.of_piece(name, work, *inputs)
        if self.kept[name] is not old:
            self.worked.append(name)
        return result

    def of_piece(self, name: str, work: Callable[..., R], *inputs: Any) -> R:
        """As ``station``, for one piece's share of one, which is worked whenever its station is."""
        old = self.kept.get(name)
        if old is not None and all(a is b or _equal(a, b) for a, b in zip(old[0], inputs, strict=True)):
            return old[1]  # type: ignore[no-any-return]  # as above, where it is kept
        result = work(*inputs)
        self.kept[name] = (inputs, result)
        return result


def _equal(a: Any, b: Any) -> bool:
    """Equality of document values; results of stations hold arrays and count by identity alone."""
    if type(a) is not type(b) or type(a).__module__.startswith("nullah.core.stations"):
        return False
    return bool(a == b)


@frozen
class Plan:
    """Everything that follows from a project."""

    project: Project
    piece: PieceResult
    timber: timber.TimberResult
    surfaces: surfaces.Surfaces
    breakdown: breakdown.BreakdownResult
    trueup: trueup.TrueupResult
    joints: joints.JointsResult
    together: together.TogetherResult | None
    bench: bench.BenchResult
    calls: tuple[Call, ...]
    togethers: Mapping[str, TogetherResult] = field(default_factory=dict)  # of every piece, by its id

    def call(self, call_id: str) -> Call | None:
        """The call of that id, or None."""
        return next((c for c in self.calls if c.id == call_id), None)

    def open_calls(self) -> tuple[Call, ...]:
        """Calls that still want a decision, conflicts first."""
        return tuple(sorted((c for c in self.calls if c.open), key=lambda c: not c.conflict))


def plan(
    project: Project,
    cache: PlanCache | None = None,
    found: Found | None = None,
    better_too: bool = False,
    looked: Mapping[str, clash_calls.Looked] | None = None,
) -> Plan:
    """The plan of a project: pure, station by station.

    Args:
        cache: kept results of the caller's; None computes all.
        found: layouts a search has brought, with the fingerprint of the request they answer; they become a call's options.
            Others than those asked for now are passed over.
        looked: what ``clashes`` found of pieces; of those that are other objects now it is passed over.
        better_too: a better layout was asked for though the accepted one may serve.
    """
    kept = cache if cache is not None else PlanCache()
    kept.worked.clear()
    p = project
    made = kept.station("as_made", as_made.work, p.boards, p.room, p.choices, p.layout, p.cut, p.references)
    done_piece = kept.station(
        "piece", piece.work, p.planned_from, p.hand, made.wood, piece.shop_of(p.kit), kept.of_piece
    )
    fitted = kept.station("surfaces", surfaces.work, p.boards, p.readings, p.planed, kept.of_piece)
    done_timber = kept.station(
        "timber",
        timber.work,
        p.boards,
        p.choices,
        done_piece,
        made,
        p.allowances,
        p.kit.crosscut_kerf,
        p.layout,
        p.readings,
        fitted,
    )
    sawing = kept.station("sawing", breakdown.sawing_of, p.boards, p.layout)
    progress = kept.station("progress", breakdown.progress_of, p.boards, p.layout, sawing, p.done_of_all, p.cut)
    freed = breakdown.freed_of(progress)
    in_rough = kept.station(
        "rough", rough.work, p.boards, p.kit.rip_kerf, p.allowances, p.choices, done_piece, done_timber, freed
    )
    own_rates = kept.station("rates", rates.work, p.log, sawing.cuts)
    done_break = kept.station(
        "breakdown",
        breakdown.work,
        p.boards,
        p.readings,
        p.kit.only("crosscut_kerf", "rip_kerf"),
        p.layout,
        done_piece,
        done_timber,
        in_rough,
        fitted,
        sawing,
        p.pinned,
        p.whole,
        p.weights,
        own_rates,
        progress,
    )
    done_true = kept.station(
        "trueup",
        trueup.work,
        p.boards,
        p.readings,
        p.planed,
        p.kit.only("planes"),
        p.choices,
        done_piece,
        done_break,
        fitted,
    )
    of_each = {one.id: one.named.choices for one in p.pieces}
    done_joints = kept.station(
        "joints", joints.work, p.kit.only(*joints.ASKED_OF_KIT), of_each, done_piece, kept.of_piece
    )
    in_zones = kept.station("joint zones", joint_zones.work, p.boards, p.choices, done_piece, done_break, done_joints)
    done_together = kept.station(
        "together",
        together.work,
        p.kit.only("clamps", "glue"),
        p.measured,
        of_each,
        done_piece,
        done_joints,
        kept.of_piece,
    )
    lying = kept.station("arranged", arranged.work, p.boards, p.choices, done_piece, done_break, made)
    cuts = kept.station("cuts", rough_steps.cut_steps, p.boards, sawing, done_true.planed_whole)
    done_bench = kept.station(
        "bench",
        bench.work,
        p.boards,
        p.done,
        p.log,
        done_piece,
        made,
        done_break,
        done_true,
        done_joints,
        done_together,
        cuts,
        lying,
    )
    by_id = {part.id: part for part in done_piece.parts}
    calls = [
        breakdown_calls.with_recut_stock(c, by_id.get(c.parts[0]), done_break, p.boards) if c.conflict else c
        for c in done_piece.calls
    ]
    calls += clash_calls.calls(looked or {}, done_piece, done_joints.of_piece, p.choices)
    calls += (*done_timber.calls, *in_rough.calls)
    short = short_of_wood.short_call(done_break, done_piece, p.units, p.choices)
    calls += (short,) if short is not None else ()
    if found is not None and found[0] == done_break.request.fingerprint:
        offered = breakdown_calls.layout_call(
            done_break,
            found[1],
            better_too,
            done_piece.called,
            lambda short: short_of_wood.ways_out(short, done_break, done_piece, p.units),
        )
        if offered:
            calls.append(offered)
    calls += [
        *done_true.calls,
        *in_zones,
        *lying.calls,
        *done_joints.calls,
        *(c for one in done_together.values() for c in one.calls),
    ]
    return Plan(
        p,
        done_piece,
        done_timber,
        fitted,
        done_break,
        done_true,
        done_joints,
        done_together.get(p.hand),
        done_bench,
        tuple(calls),
        done_together,
    )


def settings_at(one: Plan, station: str) -> tuple[Setting, ...]:
    """What to set the tools to at a station: rough sizes before the saw, thicknesses before the plane, else the joints'."""
    if station in ("timber", "breakdown"):
        rough = [
            Setting("rule, rough length", b.length, "", (b.id,), f"rough width {marked(b.width)}")
            for b in one.breakdown.blanks
        ]
        return gathered(rough)
    if station == "trueup":
        wanted = [
            Setting("marking gauge", p.thickness, "", (p.id,), "thickness, from the face side") for p in one.piece.parts
        ]
        wanted += [
            Setting("marking gauge", t.planing.wanted, "", (t.id,), "thickness before it is resawn")
            for t in one.trueup.parts
            if t.leaves > 1
        ]
        return gathered(wanted)
    if station == "together" and one.together is not None:
        return (Setting("diagonal rod", one.together.diagonal, "", (WHOLE,), "corner to corner, outside"),)
    if len(one.piece.made) == 1:
        return one.joints.settings
    return gathered([s for j in one.joints.of_piece[one.project.hand] for s in j.settings])
