"""How a designed piece goes together, worked out from how its joints go home: a stage a way of each frame, then what wants no glue."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import NamedTuple
from zlib import crc32

from nullah.core.joints.families import FAMILIES
from nullah.core.joints.squareness import EQUAL
from nullah.core.marking.family import axis_of
from nullah.core.marking.plan import JointPlan
from nullah.core.pieces.act import Act
from nullah.core.pieces.worked import Worked
from nullah.core.values.design import JointDesign
from nullah.core.values.frozen import frozen
from nullah.core.values.measure import marked


class Fastening(NamedTuple):
    """How joints go home without glue: the kind of step, its words about the ``pairs`` or ``what`` goes in, and in which turn it comes:
    what draws others up before them, what comes apart in use after."""

    kind: str
    words: str
    turn: int


FASTENED = {
    "pegged": Fastening("peg", "Join {pairs}, and drive the pegs until the shoulders close", 0),
    "screwed": Fastening("screw", "Screw {pairs}", 1),
    "nailed": Fastening("nail", "Nail {pairs}", 1),
    "wedged": Fastening("wedge", "Join {pairs}, and drive the wedges in turn until the shoulders close", 2),
    "slid": Fastening("slide", "Slide the {what} in, dry", 3),
}
TENON_CHEEKS = 4  # faces that take glue at a tenon and its mortise


@frozen
class Stage:
    """What goes together at one go: ``home`` as its joints go, ``pairs`` of (what goes in, what it goes into), how many joints close,
    how many cheeks are coated and how many clamps that takes."""

    home: str
    pairs: tuple[tuple[str, str], ...]
    joints: int
    cheeks: int
    frame: str = ""
    dry: tuple[str, ...] = ()  # what is set in dry as it closes
    clamps: int = 0
    only: tuple[tuple[str, str, str], ...] = ()  # what goes in, what it goes into, and what alone of it takes glue
    of: str = ""  # which joints close, by the piece's own names


def stages(worked: Worked, laid: Mapping[str, JointPlan]) -> tuple[Stage, ...]:
    """The stages in order: frames that stand in the piece first, each glued along its axes in turn; then pegs, nails, screws by sets,
    wedges, and what is slid in.

    Args:
        laid: the joints that are laid out, by the piece's own names for them.
    """
    design = worked.sizes.design
    label = {p.id: p.label for p in design.parts}
    frame_of = {p.id: p.frame for p in design.parts}
    glued: dict[tuple[str, int], list[tuple[str, str, JointPlan]]] = {}
    fastened: dict[tuple[str, str], list[tuple[str, str]]] = {}
    ids: dict[tuple[str, int | str], list[str]] = {}
    dry: dict[str, list[str]] = {}
    for joint in design.joints:
        if joint.id not in laid:
            continue
        family = FAMILIES[joint.family]
        names = (label[joint.first], label.get(joint.second, ""))
        frame = frame_of[joint.first]
        home = _home(joint, laid[joint.id])
        if home == "glued":
            glued.setdefault((frame, axis_of(joint.way)[0]), []).append((*names, laid[joint.id]))
            ids.setdefault((frame, axis_of(joint.way)[0]), []).append(joint.id)
        elif home == "dry":
            dry.setdefault(frame, []).append(names[0])
        elif home in FASTENED:
            pair = (
                names[::-1] if family.home == "nailed" else names
            )  # what is nailed on lies over the edge of the other
            fastened.setdefault((home, joint.set or joint.id), []).append(pair)
            ids.setdefault((home, joint.set or joint.id), []).append(joint.id)
    order = sorted(glued, key=lambda key: (key[0] == "", key[0], key[1]))
    last = dict(order)
    found = [
        Stage(
            "glued",
            tuple((a, b) for a, b, _ in glued[frame, axis]),
            len(glued[frame, axis]),
            sum(_cheeks(j) for _, _, j in glued[frame, axis]),
            frame,
            tuple(dict.fromkeys(dry.get(frame, ()))) if last[frame] == axis else (),
            _clamps([j for _, _, j in glued[frame, axis]]),
            tuple((a, b, j.glue) for a, b, j in glued[frame, axis] if j.glue),
            _named(ids[frame, axis]),
        )
        for frame, axis in order
    ]
    left = tuple(dict.fromkeys(name for frame in dry if frame not in last for name in dry[frame]))
    in_turn = sorted(fastened.items(), key=lambda item: FASTENED[item[0][0]].turn)
    for n, ((home, one), pairs) in enumerate(in_turn):  # what lies dry where nothing is glued goes in before the first
        found.append(Stage(home, tuple(pairs), len(pairs), 0, dry=left if n == 0 else (), of=_named(ids[home, one])))
    return tuple(found)


_LONG = 160  # letters: names of more are told by their sum


def _named(joints: Sequence[str]) -> str:
    """A lot of joints by their names, so that no other lot is named alike."""
    names = "+".join(sorted(joints))
    return names if len(names) <= _LONG else f"{names[:_LONG]}+{crc32(names.encode()):08x}"


def _home(joint: JointDesign, laid: JointPlan) -> str:
    """How a joint goes home, by what is asked of it, else as its family does."""
    if joint.asked.get("held") == "screws":
        return "screwed"
    if joint.asked.get("hold") == "drawbored" and laid.figures.get("pegs"):
        return "pegged"
    return str(joint.asked.get("fixed", FAMILIES[joint.family].home)).partition(" ")[0]  # however much of it is glued


def _cheeks(joint: JointPlan) -> int:
    """How many faces of a joint take glue, as large as a cheek: two to a tail and two to a pin, or as its family says."""
    return int(joint.figures.get("cheeks", TENON_CHEEKS * (joint.tails or 1)))


def _clamps(joints: list[JointPlan]) -> int:
    """How many clamps close them at one go: two a joint, but as many as the longest wants where the same clamps go across several."""
    across = [int(j.figures["clamps"]) for j in joints if "clamps" in j.figures]
    return max(across, default=0) + 2 * (len(joints) - len(across))


def acts(goes: tuple[Stage, ...], squared: bool, glue: str) -> tuple[Act, ...]:
    """The stages as steps: dry fit, get ready, glue and let dry stage by stage, square what has two ways, then what wants no glue."""
    glued = [s for s in goes if s.home == "glued"]
    found = []
    if glued:
        found = [
            Act("fit", "Put it all together dry, in the order it will be glued; mark each joint and which way round."),
            Act("prepare", "Finish what no plane reaches later; lay out clamps, cauls, brush and a damp cloth."),
        ]
    for stage in glued:
        with_dry = f", with {_listed(stage.dry)} set in dry" if stage.dry else ""
        found.append(
            Act(
                "glue",
                f"Glue {_pairs(stage.pairs)}{with_dry}; close the shoulders evenly.{_only(stage.only)}",
                of=stage.of,
            )
        )
        if squared and stage is glued[-1]:
            found.append(
                Act(
                    "square",
                    f"Measure the diagonals; push the longer one until they agree within {marked(EQUAL)}.",
                    "diagonals",
                )
            )
        found.append(Act("dry", f"Let it set in the clamps as the label of the {glue} says.", of=stage.of))
    for stage in goes:
        if stage.home in FASTENED:
            how = FASTENED[stage.home]
            with_dry = f", with {_listed(stage.dry)} in before it is closed" if stage.dry else ""
            what = _listed(tuple(dict.fromkeys(a for a, _ in stage.pairs)))
            words = f"{how.words.format(pairs=_pairs(stage.pairs), what=what)}{with_dry}."
            found.append(Act(how.kind, words, of=stage.of))
    return tuple(found)


def _only(partly: tuple[tuple[str, str, str], ...]) -> str:
    """What alone takes glue, as each joint has it."""
    words: dict[str, list[tuple[str, str]]] = {}
    for a, b, what in partly:
        words.setdefault(what, []).append((a, b))
    return "".join(f" Of {_pairs(tuple(pairs))} glue {what}." for what, pairs in words.items())


def _pairs(pairs: tuple[tuple[str, str], ...]) -> str:
    """``front apron into front left leg and front right leg; ...``"""
    into: dict[str, list[str]] = {}
    for a, b in pairs:
        into.setdefault(a, []).append(b)
    return "; ".join(f"the {a} to the {_listed(tuple(dict.fromkeys(mates)))}" for a, mates in into.items())


def _listed(names: tuple[str, ...]) -> str:
    return " and ".join(names) if len(names) < 3 else ", ".join(names[:-1]) + " and " + names[-1]
