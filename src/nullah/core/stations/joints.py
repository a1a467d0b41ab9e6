"""Joints: every setting, marked face, order and check, from the parts as they are.

To add a joint family: a file in ``core/joints`` and its line in ``core/joints/families.py``.
"""

from __future__ import annotations

from collections.abc import Mapping
from functools import cached_property

from nullah.core.document.calls import Call, Option, taken
from nullah.core.document.pieces import Designed
from nullah.core.document.project import Choice, Kit
from nullah.core.joints.families import FAMILIES
from nullah.core.marking.family import School
from nullah.core.marking.gauges import by_gauges
from nullah.core.marking.plan import JointPlan, Setting, counted, gathered, qualified
from nullah.core.marking.work import Work
from nullah.core.marking.work import work as work_of
from nullah.core.pieces.own import Laying
from nullah.core.pieces.part import Part
from nullah.core.pieces.worked import Worked
from nullah.core.stations import cut_joints
from nullah.core.stations.made import Keeps, Made, PieceResult, anew
from nullah.core.stations.piece_calls import lost_call
from nullah.core.stations.piece_changes import put
from nullah.core.values.design import JointDesign
from nullah.core.values.frozen import frozen, replace
from nullah.core.wood.species import species

# what of the kit joints are laid out by
ASKED_OF_KIT = (
    "chisels",
    "bits",
    "plough",
    "plough_irons",
    "plough_deepest",
    "router_plane",
    "rabbet_plane",
    "mortise_gauge",
    "gauge_reach",
)
NAMED = 1  # joints that are named where more are asked about


@frozen
class Works:
    """What a piece's joints are at the bench, worked out once it is asked for: not while something is dragged."""

    joints: tuple[JointPlan, ...]
    parts: tuple[Part, ...]

    @cached_property
    def of(self) -> dict[str, Work]:
        """By the joint's id."""
        parts = {p.id: p for p in self.parts}
        return {
            j.id: work_of(
                j, FAMILIES[j.family].making, lambda p: parts[p].sizes, lambda p: species(parts[p].species).slower
            )
            for j in self.joints
        }


@frozen
class JointsResult:
    """Joints of all pieces in the order of the work, settings gathered over all of them, what of the piece in hand cannot be laid
    out, calls; ``of_piece``: each piece's joints by its id, and ``troubles`` what cannot be laid out of which; ``works``: what each
    piece's are at the bench."""

    joints: tuple[JointPlan, ...]
    settings: tuple[Setting, ...]
    problem: str
    calls: tuple[Call, ...]
    of_piece: dict[str, tuple[JointPlan, ...]]
    troubles: dict[str, str]
    works: tuple[Works, ...]

    def work(self, joint: str) -> Work:
        """What a joint is at the bench.

        Raises:
            KeyError: no joint of that id is laid out.
        """
        return self._by_joint[joint]

    @cached_property
    def _by_joint(self) -> dict[str, Work]:
        return {name: work for one in self.works for name, work in one.of.items()}

    def failing(self) -> tuple[tuple[str, str], ...]:
        """(joint, words) of every check that does not hold."""
        return tuple((j.name, c.text) for j in self.joints for c in j.checks if not c.holds)


def work(
    kit: Kit, choices: Mapping[str, tuple[Choice, ...]], upstream: PieceResult, keeps: Keeps = anew
) -> JointsResult:
    """The station: joints of every piece, worked from measured thicknesses; joints that are cut stay as they were cut, and where the
    plan has come to differ a call says so. Those of a piece that is as it was are kept.

    Args:
        choices: of each piece, by its id.
    """
    laid: dict[str, tuple[JointPlan, ...]] = {}
    troubles: dict[str, str] = {}
    calls: list[Call] = []
    works: list[Works] = []
    several = len(upstream.made) > 1
    for made in upstream.made:
        laid[made.id], troubles[made.id], asked, done = keeps(
            f"joints {made.id}", _of_piece, made, kit, choices[made.id]
        )
        works.append(done)
        calls += [replace(c, question=f"{made.piece.name}: {c.question}") if several else c for c in asked]
    joints = tuple(j for mine in laid.values() for j in mine)
    settings = gathered([s for j in joints for s in j.settings])
    return JointsResult(joints, settings, troubles[upstream.hand], tuple(calls), laid, troubles, tuple(works))


def _of_piece(
    made: Made, kit: Kit, choices: tuple[Choice, ...]
) -> tuple[tuple[JointPlan, ...], str, tuple[Call, ...], Works]:
    """A piece's joints by the project's names, what of it cannot be laid out, what is asked about them, and what each is at the
    bench."""
    mine = made.own.laid(kit, choices) if made.own is not None else _of_design(made, choices)
    name = made.piece.name if made.prefix else ""
    calls = mine.calls if mine.trouble else (*cut_joints.conflicts(made, mine, choices), *mine.calls)
    asked = tuple(replace(c, piece=made.id) for c in calls)
    laid = (by_gauges(j, kit.gauge_reach, kit.mortise_gauge) for j in mine.joints)
    joints = tuple(qualified(j, made.id, name) for j in laid)
    return joints, mine.trouble, asked, Works(joints, made.parts)


def _schools(made: Made, worked: Worked, laid: tuple[JointPlan, ...], choices: tuple[Choice, ...]) -> tuple[Call, ...]:
    """Matters of school, asked once for all the joints of a piece that they matter to."""
    found: dict[School, list[JointDesign]] = {}
    names = {j.id: j.name for j in laid}
    for joint in worked.sizes.design.joints:
        for school in FAMILIES[joint.family].schools:
            if joint.id in names and _matters(worked, joint, school.ask):
                found.setdefault(school, []).append(joint)
    calls = []
    for school, joints in found.items():
        name = school.ask
        ask = next(a for a in FAMILIES[joints[0].family].asks if a.name == name)
        said = "; ".join(names.get(j.id, j.id) for j in joints[:NAMED]) + (" and more" if len(joints) > NAMED else "")
        where = (f"{counted(len(joints), 'joint')}: {said}",) if len(joints) > 1 or not school.told else ()
        options = tuple(
            Option(
                way,
                school.spoken.format(way),
                (*school.comes_to(way), *where),
                put(made.id, tuple((j.id, name, ask.read(way)) for j in joints)),
            )
            for way in school.ways or ask.options
        )
        wood = worked.sizes.design.part(joints[0].first).species
        usual = school.usual(species(wood)) if school.usual else ask.default
        call_id = f"{made.prefix}school {name}"
        asked = ", ".join(sorted(j.id for j in joints))[:2000]
        calls.append(
            Call(
                call_id,
                "joints",
                school.question,
                options,
                usual,
                school.why,
                asked,
                differ=school.differ,
                parts=tuple(dict.fromkeys(f"{made.prefix}{j.second}" for j in joints)),
                taken=taken(call_id, options, asked, choices),
                taste=True,
            )
        )
    return tuple(calls)


def _mends(made: Made, worked: Worked, laid: tuple[JointPlan, ...], choices: tuple[Choice, ...]) -> tuple[Call, ...]:
    """What is asked where a check does not hold and there is a way out; of a joint that is cut nothing."""
    calls: dict[str, Call] = {}
    designs = {j.id: j for j in worked.sizes.design.joints}
    for joint in laid:
        for check in joint.checks if joint.id not in worked.joints_cut else ():
            way = check.mend
            design = designs[joint.id]
            if check.holds or way is None or design.asked.get(way.ask) == way.value:
                continue
            alike = [j.id for j in designs.values() if design.set and (j.set, j.family) == (design.set, design.family)]
            mine = alike or [joint.id]  # a set goes by the least of its depths: all of it is changed
            options = (
                Option(
                    "mend",
                    way.words,
                    ("the joint is laid out so",),
                    put(made.id, tuple((j, way.ask, way.value) for j in mine)),
                ),
                Option("leave", "leave it", ("it is cut as it is, and the check goes on saying so",)),
            )
            call_id = f"{made.prefix}mend {mine[0]} {way.ask}"
            calls.setdefault(
                call_id,
                Call(
                    call_id,
                    "joints",
                    f"{joint.name}: {check.text}. Is it changed?",
                    options,
                    "mend",
                    "what does not hold on paper does not at the bench",
                    f"{check.text} {way.value}"[:2000],
                    differ="Figures are those of common practice; a maker who knows the wood may go beyond them.",
                    parts=tuple(f"{made.prefix}{p}" for p in joint.parts),
                    taken=taken(call_id, options, f"{check.text} {way.value}"[:2000], choices),
                ),
            )
    return tuple(calls.values())


def _asked(made: Made, worked: Worked, laid: tuple[JointPlan, ...], choices: tuple[Choice, ...]) -> tuple[Call, ...]:
    return (*_mends(made, worked, laid, choices), *_schools(made, worked, laid, choices))


def _matters(worked: Worked, joint: JointDesign, name: str) -> bool:
    """Whether a school makes a difference to a joint; to one that cannot be made none does."""
    try:
        return bool(worked.sizes.value_of(joint.id, f"asks {name}"))
    except ValueError:
        return False


def _of_design(made: Made, choices: tuple[Choice, ...]) -> Laying:
    """Joints of a designed piece, what stands in their way, and what is asked of them."""
    if made.worked is None:
        return Laying((), made.problem, ())
    if (
        isinstance(made.piece, Designed) and made.piece.edits
    ):  # what the maker changed may leave a joint without its place
        laid, failed = made.worked.joints_there_are()
        lost = tuple(lost_call(made.piece, name, f"{why} {name} is set aside.", choices) for name, why in failed)
        return Laying(laid, "", (*lost, *_asked(made, made.worked, laid, choices)), made.worked.laid_anew())
    try:
        laid = made.worked.joints()
        return Laying(laid, "", _asked(made, made.worked, laid, choices), made.worked.laid_anew())
    except ValueError as error:
        return Laying((), str(error), ())
