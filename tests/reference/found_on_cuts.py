"""Whether figures that are told are found again on what the cuts take away, literally, from the side that is named."""

import math
import re
from itertools import pairwise, product

from nullah.core.marking.plan import ARC, CENTRE, FAR_SIDE, MADE, ROOM, SIDE_WORDS
from nullah.core.shapes.cut import SIDES
from nullah.core.values.measure import SAME, told

NEAR = SAME + 0.001  # mm: no rule tells sizes nearer than that apart
_SIDE = {words: SIDES[name] for name, words in SIDE_WORDS.items()}
_MARKED = re.compile("\u2063(-?[0-9.]+)[^\u2063]*\u2063")


def features(joint, part, size):
    """Of each axis of a part, where its cuts have a plane, a corner or the middle of a hole, mm; and the diameters of what is round in
    them. Of a cut that leans, its outline is also taken where it passes another's floor."""
    found, round_ = ([], [], []), []
    mine = [c for c in joint.cuts if c.part == part]
    for cut in mine:
        axis, far = SIDES[cut.side]
        i, j = (k for k in range(3) if k != axis)
        found[axis].extend([size[axis], size[axis] - cut.depth] if far else [0.0, cut.depth])
        outlines = [cut.outline]
        if cut.far:
            floors = [c.depth for c in mine if SIDES[c.side][0] == axis]
            shares = [d / cut.depth for d in floors] + [1 - d / cut.depth for d in floors]
            pairs = list(zip(cut.outline, cut.far, strict=True)) if len(cut.outline) == len(cut.far) else []
            outlines += [[tuple(a + (b - a) * s for a, b in zip(p, q, strict=True)) for p, q in pairs] for s in shares]
            outlines.append(cut.far)
        for outline in filter(None, outlines):
            for k, n in ((i, 0), (j, 1)):
                along = [p[n] for p in outline]
                found[k].extend(along)
                found[k].append((min(along) + max(along)) / 2)
            round_ += [r for points in zip(outline, outline[1:], outline[2:], strict=False) if (r := radius(*points))]
    for k in range(3):  # what stays between cuts that lie beside each other has a middle too
        spans = sorted({span for c in mine if (span := reach(c, k))})
        found[k].extend((a[1] + b[0]) / 2 for a, b in pairwise(spans) if b[0] > a[1])
    return found, [2 * r for r in round_]


def reach(cut, axis):
    """From where to where a cut goes along an axis of its part, at its mouth; nothing along the axis it is sunk in."""
    others = [k for k in range(3) if k != SIDES[cut.side][0]]
    if axis not in others:
        return None
    along = [p[others.index(axis)] for p in cut.outline]
    return min(along), max(along)


def radius(a, b, c):
    """Of the circle through three points; 0 where they lie in a line."""
    sides = [math.dist(a, b), math.dist(b, c), math.dist(c, a)]
    twice = abs((b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]))
    return math.prod(sides) / (2 * twice) if twice > 1e-6 else 0.0


def slopes(joint, parts):
    """The angles, in degrees to either axis, of what leans in the cuts of some parts: edges of outlines, and what lies between an
    outline and the same at its depth."""
    found = []
    for cut in (c for c in joint.cuts if c.part in parts):
        runs = [
            (b[0] - a[0], b[1] - a[1]) for o in (cut.outline, cut.far) for a, b in zip(o, [*o[1:], *o[:1]], strict=True)
        ]
        if len(cut.far) == len(cut.outline):
            runs += [(q[n] - p[n], cut.depth) for p, q in zip(cut.outline, cut.far, strict=True) for n in (0, 1)]
        found += [math.degrees(math.atan2(abs(x), abs(y))) for x, y in runs if abs(x) > 1e-6 and abs(y) > 1e-6]
    return [a for angle in found for a in (angle, 90 - angle)]


def is_sloped(setting, joint):
    """Whether a bevel is set to what leans in the cuts: as 1 : 7, from square, or in degrees."""
    text = setting.text
    if " : " in text:
        wanted, near = math.degrees(math.atan(1 / float(text.split(" : ")[1]))), 0.05
    elif text.endswith("\N{DEGREE SIGN}"):
        wanted, near = float(text.rstrip("\N{DEGREE SIGN}")), 0.06
    else:
        return True
    return any(abs(angle - wanted) < near for angle in slopes(joint, setting.parts))


def made_for(joint, what):
    """What is made beside the parts, by the holes and grooves it is made for: sizes it may have, None of what no cut is made for."""
    depth = [c.depth for c in joint.cuts]
    if what == "length of a dowel":
        return [sum(depth[:2]) - 2.0]  # a millimetre in either hole is for the glue
    if what == "point of the compass":
        outline = joint.cuts[0].outline
        rise = [max(p[n] for p in outline) - min(p[n] for p in outline) for n in (0, 1)]
        return [wide / 2 - up for wide in features(joint, joint.parts[0], (0.0, 0.0, 0.0))[1] for up in rise]
    if what == "width of the tongue":
        return [sum(depth[:2]) - 1.0]
    return None


def is_there(figure, joint, sizes, stands):
    """Whether a figure stands on the cuts of its part as it says."""
    if figure.origin == ROOM:
        return True
    if figure.origin == MADE:
        made = made_for(joint, figure.to)
        return made is None or any(abs(figure.mm - mm) < NEAR for mm in made)
    if figure.part not in sizes:
        return False
    size = sizes[figure.part]
    planes, round_ = features(joint, figure.part, size)
    if figure.origin in _SIDE:
        axis, far = _SIDE[figure.origin]
        return any(abs((size[axis] - at if far else at) - figure.mm) < NEAR for at in planes[axis])
    if figure.origin == CENTRE:
        return any(abs(abs(at - size[k] / 2) - figure.mm) < NEAR for k in range(3) for at in planes[k])
    if figure.origin == FAR_SIDE:
        (mate,) = (stands[p] for p in joint.parts if p != figure.part)
        own = stands[figure.part]
        for corner in product(*zip(*mate.box, strict=True)):
            for k in range(3):
                at = sum((c - o) * a for c, o, a in zip(corner, own.origin, own.axes[k], strict=True))
                if any(abs(abs(at - p) - figure.mm) < NEAR for p in planes[k]):
                    return True
        return False
    if figure.origin == ARC:
        return any(abs(wide / 2 - figure.mm) < NEAR for wide in round_)
    if any(abs(wide - figure.mm) < NEAR for wide in round_):
        return True
    for k in range(3):
        at = [*planes[k], 0.0, size[k]]
        if any(abs(abs(a - b) - figure.mm) < NEAR for a in at for b in at):
            return True
    return False


def untrue(now):
    """What of the settings and steps of a plan's joints is not found again: a sentence each."""
    sizes = {p.id: p.sizes for p in now.piece.parts}
    stands = {f"{made.prefix}{p.id}": p for made in now.piece.made for p in made.stands(now.joints.of_piece[made.id])}
    out = []
    for joint in now.joints.joints:
        figures = [f for s in joint.settings for f in s.marks] + list(joint.lengths)
        out += [
            f"{joint.name}: {f.to}: {f.mm:.2f} on {f.part} from {f.origin or '(size)'}"
            for f in figures
            if not is_there(f, joint, sizes, stands)
        ]
        out += [
            f"{joint.name}: {s.tool} {s.text}, {s.use}"
            for s in joint.settings
            if s.value is None and not is_sloped(s, joint)
        ]
        known = [f.mm for f in figures]
        for step in joint.steps:
            for match in _MARKED.finditer(step):
                if not any(abs(float(match[1]) - round(mm, 1)) < 0.051 for mm in known):
                    out.append(f"{joint.name}: prose: {match[1]} in {told(step)!r}")
    return out
