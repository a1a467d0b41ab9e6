"""A rectangle of a board while it is being sawn up: it is cut in two by full cuts, and its pieces again."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field

from nullah.core.document.project import Node
from nullah.core.layout.model import EPS, LEAST_WIDTH, Options, Stock


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
        use = "offcut" if cell.length >= options.keep_offcut and cell.width >= LEAST_WIDTH else "waste"
    length, width = max(0.0, cell.length), max(0.0, cell.width)  # what a sum of sizes leaves below nothing is rounding
    return Node(x=cell.x, y=cell.y, length=length, width=width, use=use, part=cell.part)


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


def as_cell(node: Node) -> Cell:
    """A tree of the document, to be worked on; offcuts are free again."""
    use = "free" if node.use == "offcut" else node.use
    return Cell(
        node.x,
        node.y,
        node.length,
        node.width,
        use,
        node.part,
        node.axis,
        node.at,
        node.kerf,
        [as_cell(c) for c in node.children],
    )


def trimmed(s: Stock, options: Options) -> Cell:
    """The board with its spoiled ends and edges cut off; what is left is its only free cell."""
    root = Cell(0.0, 0.0, s.length, s.width)
    cell = root
    if s.x0 > EPS:
        left, cell = cell.cut(
            "across", s.x0 - options.crosscut_kerf if s.x0 > options.crosscut_kerf else 0.0, options.crosscut_kerf
        )
        left.use = "waste"
    if s.x1 < s.length - EPS:
        cell, right = cell.cut("across", s.x1, options.crosscut_kerf)
        right.use = "waste"
    if s.y0 > EPS:
        lower, cell = cell.cut("along", s.y0 - options.rip_kerf if s.y0 > options.rip_kerf else 0.0, options.rip_kerf)
        lower.use = "waste"
    if s.y1 < s.width - EPS:
        cell, upper = cell.cut("along", s.y1, options.rip_kerf)
        upper.use = "waste"
    return root


def within(c: Cell, s: Stock) -> bool:
    """Whether a piece lies within what is left of the board once trimmed."""
    return c.x >= s.x0 - EPS and c.y >= s.y0 - EPS and c.x + c.length <= s.x1 + EPS and c.y + c.width <= s.y1 + EPS


def sound(cell: Cell, stock: Stock | None) -> bool:
    """Waste that is only too small to keep, not spoiled: it lies within what is left of the board once trimmed."""
    return cell.use == "waste" and stock is not None and within(cell, stock)
