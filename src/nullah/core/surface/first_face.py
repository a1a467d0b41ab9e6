"""Which face of a board is planed first: that which lies up while the other, laid on a flat bench, rocks least."""

from __future__ import annotations

from functools import lru_cache

from nullah.core.surface.heights import Rows
from nullah.core.surface.readings import BACK, FACE, Surface
from nullah.core.surface.slab import thickest_slab
from nullah.core.values.arrays import Floats, np
from nullah.core.values.frozen import frozen

_EVERY = 2  # of the places a surface is worked on: enough of them to see how it lies
_PRESSED = (
    0.4871,
    0.5139,
)  # along and across from the middle: near half, and on no line between places that a board is read at
_FAR = 1e4  # mm: nothing of a board lies so far off
ALIKE = 0.3  # mm: two faces that rock by no more apart lie alike (common practice, no source)


@frozen
class FirstFace:
    """``side`` is planed first; by how much the board rocks laid on its face (``on_face``) and on its back (``on_back``), mm."""

    side: str
    on_face: float
    on_back: float

    @property
    def alike(self) -> bool:
        """Whether it lies on either as well."""
        return abs(self.on_face - self.on_back) <= ALIKE


@lru_cache(maxsize=32)  # it is asked for by what is planned and by what is said
def first_face(face: Rows, back: Rows) -> FirstFace:
    """Bow, wind and cup together: all that keeps a face off the bench.

    Args:
        face, back: heights at places spread evenly, five or more along and across, both counted upward from the back to the face, mm.
    """
    on_face, on_back = rocks(np.array(face)), rocks(-np.array(back))
    found = FirstFace(FACE, on_face, on_back)
    return found if found.alike or on_back < on_face else FirstFace(BACK, on_face, on_back)


def first_of(surface: Surface, x: float = 0.0, y: float = 0.0, length: float = 0.0, width: float = 0.0) -> FirstFace:
    """The same of a rectangle of a surface, mm; without one of all of it."""
    _, _, top, bottom = surface.section(x, y, length or surface.length, width or surface.width)
    return first_face(*(tuple([row[::_EVERY] for row in rows[::_EVERY]]) for rows in (top, bottom)))


def rocks(heights: Floats) -> float:
    """How far off a flat bench a corner of a board comes, laid down on a face, as a hand presses on one part of it or another, mm.

    Args:
        heights: of that face as it lies up, rows along the board, five by five or more, mm.
    """
    u, v = (one.ravel() for one in np.meshgrid(*(np.linspace(-1.0, 1.0, n) for n in heights.shape), indexing="ij"))
    under = -heights.ravel()  # as it lies down
    corners = [0, heights.shape[1] - 1, -heights.shape[1], -1]
    gaps = []
    for pressed in ((a * _PRESSED[0], b * _PRESSED[1]) for a in (-1.0, 1.0) for b in (-1.0, 1.0)):
        # the bench comes as high as it can where the hand presses, and nowhere higher than the board
        x, y, top, bottom = (
            np.append(of_board, of_hand)
            for of_board, of_hand in zip((u, v, under, np.full(u.size, -_FAR)), (*pressed, _FAR, 0.0), strict=True)
        )
        off = under - thickest_slab(x, y, top, bottom).upper(u, v)
        gaps.append(float(off[corners].max()))
    return max(gaps)
