"""A photograph as a guide: put beside a piece, told one length on it, and read for others."""

from __future__ import annotations

import math

from nullah.core.document.project import Guide, KnownLength, Project
from nullah.core.edits import piece_edits
from nullah.core.edits.edit import BadEdit, held, made
from nullah.core.joints.families import FAMILIES
from nullah.core.planning.plan import Plan
from nullah.core.values.measure import marked

Asked = tuple[tuple[str, str], ...]  # (joint, or "" of the piece; what it is asked) each
Ends = tuple[float, float, float, float]  # two points on the picture: right and down from its upper left corner, pixels
COARSE = 0.3  # mm a pixel: from there on a reading is taken to the whole millimetre
LEAST = 3.0  # pixels between two points, to go by


def of(project: Project) -> Guide | None:
    """The guide of the piece in hand."""
    return project.in_hand.guide


def put(project: Project, name: str, jpeg: str, wide: int, tall: int) -> Project:
    """The project with a picture beside the piece in hand, in place of the one that was there.

    Args:
        jpeg: a small copy as base64 text; wide, tall: its pixels.

    Raises:
        BadEdit: it is larger than a project keeps, or there are too many.
    """
    return _with(project, made(Guide, name=name, jpeg=jpeg, wide=wide, tall=tall))


def drop(project: Project) -> Project:
    """The project without the guide of the piece in hand."""
    return _with(project, None)


def know(project: Project, ends: Ends, mm: float) -> Project:
    """The project with the length between two points of its guide told, mm.

    Raises:
        BadEdit: there is no guide, the points are one, or it is no length.
    """
    guide = of(project)
    if guide is None:
        raise BadEdit("There is no picture beside this piece yet.")
    _apart(ends)
    known = made(KnownLength, x0=ends[0], y0=ends[1], x1=ends[2], y1=ends[3], mm=mm)
    return _with(project, held(guide, known=known))


def reads(guide: Guide, ends: Ends) -> float:
    """What lies between two points of a guide, mm, by the length that is known: as long as both lie as far from the camera.

    Raises:
        BadEdit: no length is known yet, or the points are one.
    """
    if guide.known is None:
        raise BadEdit("Say one length first: mark its two ends, and type what it measures.")
    k = guide.known
    return _apart(ends) * k.mm / math.hypot(k.x1 - k.x0, k.y1 - k.y0)


def finest(guide: Guide) -> float:
    """What one pixel of a guide comes to, mm: nearer than that nothing is read off it; 0 where no length is known."""
    k = guide.known
    return 0.0 if k is None else k.mm / math.hypot(k.x1 - k.x0, k.y1 - k.y0)


def readable(guide: Guide, ends: Ends | None) -> bool:
    """Whether something is read between two points: a length is known, and they lie apart."""
    return ends is not None and guide.known is not None and math.dist(ends[:2], ends[2:]) >= LEAST


def taken(guide: Guide, ends: Ends) -> float:
    """A reading as an answer takes it, mm: to the whole millimetre where the picture is coarse, else to the tenth.

    Raises:
        BadEdit: as of ``reads``.
    """
    return round(reads(guide, ends), 0 if finest(guide) >= COARSE else 1)


def asked(project: Project, plan: Plan) -> dict[str, Asked]:
    """What can be read off a picture, by its words: the lengths that the piece in hand is asked, and those that its joints are, all of
    one family at once: so an old piece's proportions come over."""
    kind = piece_edits.kind_of(project.in_hand)
    found: dict[str, Asked] = {a.words: (("", a.name),) for a in (kind.asks if kind else ()) if a.type == "length"}
    worked = plan.piece.in_hand.worked
    for joint in worked.sizes.design.joints if worked is not None else ():
        for ask in FAMILIES[joint.family].asks:
            if ask.type == "length" and not (kind is not None and any(a.name == ask.name for a in kind.asks)):
                words = f"{joint.family.replace('_', ' ')}: {ask.words.partition(';')[0]}"
                found[words] = (*found.get(words, ()), (joint.id, ask.name))
    return found


def take(project: Project, into: Asked, mm: float) -> Project:
    """The project with a length read off a picture as what was ``asked``, mm.

    Raises:
        BadEdit: it does not serve.
    """
    for owner, what in into:
        project = (
            piece_edits.set_joint(project, owner, what, mm) if owner else piece_edits.set_answer(project, what, mm)
        )
    return project


def told(guide: Guide, ends: Ends) -> str:
    """A reading in words, with how far off it may be."""
    return f"about {marked(reads(guide, ends))}, give or take {marked(max(0.1, finest(guide)))} or more"


def _apart(ends: Ends) -> float:
    long = math.hypot(ends[2] - ends[0], ends[3] - ends[1])
    if not math.isfinite(long) or long < LEAST:
        raise BadEdit("These two points lie too near to each other: mark the ends of something longer.")
    return long


def _with(project: Project, guide: Guide | None) -> Project:
    mine = project.in_hand
    return held(project, pieces=tuple(held(p, guide=guide) if p is mine else p for p in project.pieces))
