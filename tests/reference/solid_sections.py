"""Solids read back from an OBJ file and looked at by sections, apart from whatever made them."""

import numpy as np
from shapely import union_all
from shapely.geometry import Polygon
from shapely.ops import polygonize


def read(text):
    """Corners (n, 3) and triangles (m, 3) of each object, by its name."""
    corners, faces, name = [], {}, None
    for line in text.splitlines():
        what, *rest = line.split() or [""]
        if what == "o":
            (name,) = rest
            assert name not in faces, f"{name} twice"
            faces[name] = []
        elif what == "v":
            corners.append([float(c) for c in rest])
        elif what == "f":
            faces[name].append([int(c) - 1 for c in rest])
    all_corners = np.array(corners)
    return {name: (all_corners, np.array(found)) for name, found in faces.items()}


def volume(body):
    """By the divergence theorem: more than zero where faces look outward."""
    corners, faces = body
    a, b, c = (corners[faces[:, i]] for i in range(3))
    return float(np.einsum("ij,ij->i", a, np.cross(b, c)).sum() / 6)


def assert_closed(body):
    """Every edge is run along once each way, and no two corners of the body lie at one place."""
    corners, faces = body
    edges = [(int(f[i]), int(f[(i + 1) % 3])) for f in faces for i in range(3)]
    assert len(set(edges)) == len(edges)
    assert {(b, a) for a, b in edges} == set(edges)
    used = corners[np.unique(faces)]
    assert len(np.unique(used, axis=0)) == len(used)


def section(body, level, axis=2):
    """The body's section at a height along an axis, as areas in the other two axes: what lies within an odd number of rings is wood."""
    corners, faces = body
    others = [i for i in range(3) if i != axis]
    high = corners[:, axis] > level
    crossing = faces[high[faces].any(axis=1) & ~high[faces].all(axis=1)]
    edges = np.sort(crossing[:, [[0, 1], [1, 2], [2, 0]]], axis=2)  # both faces at an edge see the same crossing
    cut = high[edges[:, :, 0]] != high[edges[:, :, 1]]
    a, b = edges[cut].T
    share = (level - corners[a, axis]) / (corners[b, axis] - corners[a, axis])
    points = corners[a] + share[:, None] * (corners[b] - corners[a])
    pairs = np.round(points[:, others], 7).reshape(-1, 2, 2)
    cells = list(polygonize([tuple(map(tuple, p)) for p in pairs if (p[0] != p[1]).any()]))
    if len(cells) == 1:
        return cells[0]
    rings = [Polygon(c.exterior) for c in cells]
    within = [c.representative_point() for c in cells]
    return union_all([c for c, p in zip(cells, within, strict=True) if sum(r.contains(p) for r in rings) % 2])


def box(body):
    """Least and most corner."""
    used = body[0][np.unique(body[1])]
    return used.min(0), used.max(0)


def shared(one, other, known):
    """Volume two bodies share, mm3: sections every millimetre along the longer way of the space that both reach into.

    ``known`` keeps sections between calls.
    """
    (low_a, high_a), (low_b, high_b) = box(one), box(other)
    low, high = np.maximum(low_a, low_b), np.minimum(high_a, high_b)
    if (high - low <= 1e-6).any():
        return 0.0
    axis = int(np.argmax(high - low))
    total = 0.0
    for k in range(int(np.floor(low[axis])), int(np.ceil(high[axis]))):
        at = []
        for body in (one, other):
            key = (id(body), axis, k)
            if key not in known:
                known[key] = section(body, k + 0.5, axis)
            at.append(known[key])
        total += at[0].intersection(at[1]).area
    return total
