"""A rectangle of a board while it is being sawn up: it is cut in two by full cuts, and its pieces again."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field

from nullah.core.document import Node
from nullah.core.layout.model import EPS, Options


@dataclass
class Cell:
    """A rectangle while it is being worked on; becomes a ``Node`` at the end."""

    x: float
    y: float
    length: float
    width: float
    use: str = "free"
    part: str = ""
    axis: str = ""
    at: float = 0.0
    kerf: float = 0.0
    children: list[Cell] = field(default_factory=list)

    def free(self) -> Iterator[Cell]:
        if self.use == "cut":
            for child in self.children:
                yield from child.free()
        elif self.use == "free":
            yield self

    def cut(self, axis: str, at: float, kerf: float) -> tuple[Cell, Cell]:
        """Saw right across at ``at``; the kerf lies beyond it. The far side may come out with no size left."""
        if axis == "across":
            a = Cell(self.x, self.y, at - self.x, self.width)
            b = Cell(at + kerf, self.y, max(0.0, self.x + self.length - at - kerf), self.width)
        else:
            a = Cell(self.x, self.y, self.length, at - self.y)
            b = Cell(self.x, at + kerf, self.length, max(0.0, self.y + self.width - at - kerf))
        self.use, self.axis, self.at, self.kerf, self.children = "cut", axis, at, kerf, [a, b]
        return a, b


def walk(cell: Cell) -> Iterator[Cell]:
    """The cell and all under it."""
    yield cell
    for child in cell.children:
        yield from walk(child)


def as_node(cell: Cell, options: Options) -> Node:
    """The cell and all under it as the document keeps them; a free one is an offcut where it is worth keeping."""
    if cell.use == "cut":
        children = tuple(as_node(c, options) for c in cell.children)
        return Node(
            x=cell.x,
            y=cell.y,
            length=cell.length,
            width=cell.width,
            use="cut",
            axis=cell.axis,
            at=cell.at,
            kerf=cell.kerf,
            children=children,
        )
    use = cell.use
    if use == "free":
        use = "offcut" if cell.length >= options.keep_offcut and cell.width >= 20 else "waste"
    return Node(x=cell.x, y=cell.y, length=cell.length, width=cell.width, use=use, part=cell.part)


def carve(cell: Cell, x: float, y: float, length: float, width: float, options: Options) -> Cell:
    """Free the rectangle by full cuts, the preferred kind first; the rest stays free for others."""
    for axis in ("across", "along") if options.first == "crosscut" else ("along", "across"):
        kerf = options.crosscut_kerf if axis == "across" else options.rip_kerf
        low, high = (x, x + length) if axis == "across" else (y, y + width)
        start = cell.x if axis == "across" else cell.y
        if low > start + EPS:
            _, cell = cell.cut(axis, low - kerf, kerf)
        end = cell.x + cell.length if axis == "across" else cell.y + cell.width
        if high < end - EPS:
            cell, _ = cell.cut(axis, high, kerf)
    return cell
