"""What every joint family gives: settings, steps, checks and drawings of the marked faces."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import field
from functools import cached_property

from nullah.core.document.names import named
from nullah.core.drawing.display_list import Drawing
from nullah.core.shapes.cut import SIDES, Cut, Point3, on_grid
from nullah.core.values.frozen import frozen, replace
from nullah.core.values.measure import SAME, marked

_ACROSS = ((1, 2), (0, 2), (0, 1))  # of an axis, the two others
Place = tuple[float, float, float, float, float, float]


SIDE_WORDS = {
    "left": "left end",
    "right": "right end",
    "lower": "lower edge",
    "upper": "upper edge",
    "back": "back",
    "face": "face",
}
FAR_SIDE = "far side of its mate as it stands"
CENTRE, MADE, ROOM, ARC = (
    "centre line",
    "made",
    "room",
    "middle of its arc",
)  # origins of a figure that are no side of a part


@frozen
class Found:
    """A figure that is worked by, and where it is found again: ``mm`` on a part from (``origin``) a side of it (``SIDE_WORDS``), its
    ``CENTRE`` line or a line named otherwise, or "" for a size; ``to``: what is found there. Of ``MADE`` it is a size of what is made
    beside the parts, as a peg's; of ``ROOM`` what is left or given by custom."""

    mm: float
    part: str
    origin: str = ""
    to: str = ""


@frozen
class Setting:
    """One tool set once, for many cuts.

    ``value`` is in mm, or None where ``text`` says it (a bevel as 1 : 7). ``parts`` are those it serves, ``what`` it marks or cuts
    there, ``origin`` where it is measured from, as ``Found`` has it, the same on each of them. ``found``: of settings made one, what
    each is set to.
    """

    tool: str
    value: float | None
    text: str
    parts: tuple[str, ...]
    what: str
    origin: str = ""
    found: tuple[Found, ...] = ()

    @property
    def use(self) -> str:
        """What it marks or cuts, and where it is measured from."""
        if self.found or not self.origin or self.origin in (MADE, ROOM, ARC):
            return self.what
        return f"{self.what}, from the {self.origin}"

    @property
    def marks(self) -> tuple[Found, ...]:
        """What it is set to, part by part."""
        if self.value is None:
            return ()
        return self.found or tuple(Found(self.value, p, self.origin, self.what) for p in self.parts)

    @property
    def id(self) -> str:
        """Names the setting by tool and value, so that equal settings are one."""
        return f"{self.tool}:{self.text if self.value is None else f'{self.value:.2f}'}"


@frozen
class Mend:
    """A way out where a check does not hold: what the joint is asked instead, and that in words."""

    ask: str
    value: float | str | bool
    words: str


@frozen
class Check:
    """Something to hold before cutting: whether it does, the figures it rests on, and a way out where there is one."""

    holds: bool
    text: str
    mend: Mend | None = None


@frozen
class Face:
    """A marked face of one part, to scale with its waste hatched, drawn when it is asked for; faces that are ``like`` each other are
    drawn the same. ``side``: where it is one side of the part, drawn in its own axes."""

    part: str
    title: str
    like: object
    draw: Callable[[], Drawing] = field(compare=False, repr=False)
    side: str = ""

    @cached_property
    def drawing(self) -> Drawing:
        """To scale, mm."""
        return self.draw()


def drawn_face(part: str, title: str, drawing: Drawing) -> Face:
    """A face that is drawn already."""
    return Face(part, title, drawing, lambda: drawing)


@frozen
class Template:
    """A drawing at full size that is laid on the wood, drawn when it is asked for; one is printed of those that are ``like`` each
    other."""

    title: str
    like: object
    draw: Callable[[], Drawing] = field(compare=False, repr=False)

    @cached_property
    def drawing(self) -> Drawing:
        """At full size, mm."""
        return self.draw()


@frozen
class JointPlan:
    """A joint between named parts, worked out. ``family``: the kind of joint it is; ``figures``: what it is laid out to by name, mm
    (``tails`` a count, ``slope`` a run): what stays when it is cut; ``cuts``: the wood it takes away, in its parts' own axes;
    ``redrawn``: which of the cuts are marked on the wood as it then is, all others on the sides of the blank before any is made;
    ``templates``: what is laid on the wood, None where that is every marked side of its cuts; ``places``: of each part, how far its
    cuts lie from the near and from the far end of its length, width and thickness, mm; ``lengths``: the figures in its steps that no
    setting is set to; ``glue``: what alone of it takes glue, in words, "" where that is all or none."""

    id: str
    family: str
    name: str
    parts: tuple[str, ...]
    settings: tuple[Setting, ...]
    steps: tuple[str, ...]
    checks: tuple[Check, ...]
    faces: tuple[Face, ...]
    tails: int = 0  # of a dovetailed corner
    figures: Mapping[str, float] = field(default_factory=dict)
    cuts: tuple[Cut, ...] = ()
    redrawn: tuple[int, ...] = ()
    stopped: tuple[str, ...] = ()  # of a groove: the parts in which it stops within the joint
    templates: tuple[Template, ...] | None = None
    places: Mapping[str, Place] = field(default_factory=dict)
    lengths: tuple[Found, ...] = ()
    glue: str = ""
    piece: str = "1"  # whose joint it is


class Said:
    """Figures as they are said in steps: each is kept with where it is found, so that prose holds no other. Call it for its words."""

    def __init__(self) -> None:
        self.found: list[Found] = []

    def __call__(self, mm: float, part: str, origin: str = "", to: str = "") -> str:
        """The figure's words, the figure kept."""
        self.found.append(Found(mm, part, origin, to))
        return marked(mm)

    @property
    def lengths(self) -> tuple[Found, ...]:
        """All that was said."""
        return tuple(dict.fromkeys(self.found))


def off_side(cut: Cut, size: Point3, side: str, middle: bool = False) -> float:
    """How far a cut lies from a side of its part, mm: the end of it that is nearer to that side, or its ``middle``.

    Args:
        size: of the part, mm; side: of ``SIDES``.
    """
    axis, far = SIDES[side]
    own, own_far = SIDES[cut.side]
    if own == axis:
        ends = (size[axis] - cut.depth, size[axis]) if own_far else (0.0, cut.depth)
    else:
        n = [k for k in range(3) if k != own].index(axis)
        along = [p[n] for p in (*cut.outline, *cut.far)]
        ends = (min(along), max(along))
    at = sum(ends) / 2 if middle else ends[1] if far else ends[0]
    return on_grid(size[axis] - at if far else at)


def places_of(cuts: Iterable[Cut], size: Callable[[str], Point3]) -> dict[str, Place]:
    """How far cuts lie, part by part, from the near and from the far end of the part's length, width and thickness, mm.

    Args:
        size: length, width and thickness of a part, mm.
    """
    found: dict[str, list[float]] = {}
    for cut in cuts:
        axis, far = SIDES[cut.side]
        whole = size(cut.part)
        points = (*cut.outline, *cut.far)
        ends = [0.0] * 6
        ends[2 * axis + (0 if far else 1)] = whole[axis] - cut.depth
        for n, k in enumerate(_ACROSS[axis]):
            along = [p[n] for p in points]
            ends[2 * k], ends[2 * k + 1] = min(along), whole[k] - max(along)
        before = found.get(cut.part)
        found[cut.part] = [min(a, b) for a, b in zip(before, ends, strict=True)] if before else ends
    return {part: (e[0], e[1], e[2], e[3], e[4], e[5]) for part, e in found.items()}


def moved(was: Place, now: Place) -> Point3:
    """How far cuts were from where they lie now along a part's length, width and thickness, mm: both further from the one end and
    nearer to the other, so that where a part only grew or shrank beyond them they were not elsewhere."""
    x, y, z = (
        was[k] - now[k] if abs(was[k] - now[k]) > SAME and abs(was[k + 1] - now[k + 1]) > SAME else 0.0
        for k in (0, 2, 4)
    )
    return x, y, z


def counted(count: int, one: str) -> str:
    """So many of what ``one`` is called: 1 tail, 2 tails."""
    return f"{count} {one}" if count == 1 else f"{count} {one}s"


def listed(names: tuple[str, ...]) -> str:
    """Parts in few words: letters side by side, names by commas, and of many the first alone."""
    if all(len(n) < 4 for n in names):
        return " ".join(names) if len(names) < 7 else f"{names[0]} to {names[-1]}"
    return ", ".join(names) if len(names) < 4 else f"{names[0]}, {names[1]} and {len(names) - 2} more"


def qualified(joint: JointPlan, piece_id: str, name: str) -> JointPlan:
    """The joint by the project's names: what a piece that is not the first puts before its own, and the piece's name before the
    joint's."""
    prefix = named("", piece_id)
    if not prefix:
        return joint
    return replace(
        joint,
        piece=piece_id,
        id=f"{prefix}{joint.id}",
        name=f"{name}: {joint.name}",
        parts=tuple(f"{prefix}{p}" for p in joint.parts),
        settings=tuple(
            replace(s, parts=tuple(f"{prefix}{p}" for p in s.parts), found=_of_part(s.found, prefix))
            for s in joint.settings
        ),
        lengths=_of_part(joint.lengths, prefix),
        faces=tuple(_of_piece(f, prefix) for f in joint.faces),
        cuts=tuple(replace(c, part=f"{prefix}{c.part}") for c in joint.cuts),
        stopped=tuple(f"{prefix}{p}" for p in joint.stopped),
        places={f"{prefix}{p}": place for p, place in joint.places.items()},
    )


def _of_part(found: tuple[Found, ...], prefix: str) -> tuple[Found, ...]:
    return tuple(replace(f, part=f"{prefix}{f.part}") for f in found)


def _of_piece(face: Face, prefix: str) -> Face:
    return Face(
        f"{prefix}{face.part}", face.title, (prefix, face.like), lambda: face.drawing.of_piece(prefix), face.side
    )


def unqualified(joint: JointPlan, prefix: str) -> JointPlan:
    """A joint's id, name and parts by its piece's own names again."""
    if not prefix:
        return joint
    parts = tuple(p.removeprefix(prefix) for p in joint.parts)
    return replace(joint, id=joint.id.removeprefix(prefix), parts=parts)


def _both(first: str, second: str) -> str:
    """Two uses in few words: ``baseline at A`` and ``baseline at B`` make ``baseline at A, B``."""
    head, at, place = second.rpartition(" at ")
    if at and first.startswith(f"{head} at ") and ";" not in first:
        places = first.removeprefix(f"{head} at ").split(", ")
        return first if place in places else f"{first}, {place}"
    return first if second in first.split("; ") else f"{first}; {second}"


def gathered(settings: list[Setting]) -> tuple[Setting, ...]:
    """Settings of one tool to one value made one, with all the parts and uses they serve, in order of first mention."""
    merged: dict[str, Setting] = {}
    for s in settings:
        old = merged.get(s.id)
        if old is None:
            merged[s.id] = s
            continue
        parts = old.parts + tuple(p for p in s.parts if p not in old.parts)
        use = _both(old.use, s.use)
        origin = old.origin if old.origin == s.origin else ""
        merged[s.id] = Setting(old.tool, old.value, old.text, parts, use, origin, (*old.marks, *s.marks))
    return tuple(merged.values())
