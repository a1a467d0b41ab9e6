"""The box to scale: front A, right end B, and from above with the lid off, in a row."""

from __future__ import annotations

from nullah.core.document import Piece
from nullah.core.drawing import Area, Dimension, Drawing, Line, Primitive, Text, rectangle
from nullah.core.joints.dovetail import Dovetail, NoDovetail, tail_outline
from nullah.core.pictures.wood import face_figure
from nullah.core.pieces.box import Box, corner_layout, corners


def picture(piece: Piece, box: Box) -> Drawing:
    """Three views in a row, each dimension editable where typing it has a meaning."""
    length, width, height = box.outside
    gap = max(64.0, 0.2 * length)
    end, above = length + gap, length + gap + width + 1.9 * gap
    items: list[Primitive] = []
    items += _front(piece, box)
    items += _end(piece, box, end)
    items += _from_above(piece, box, above, 0.0)
    items += [
        Dimension((0, 0), (length, 0), length, -26, edit="outside.0"),
        Dimension((0, 0), (0, height), height, 26, edit="outside.2"),
        Dimension((end, 0), (end + width, 0), width, -26, edit="outside.1"),
        Text((length / 2, height + 11), "front A", ink="quiet", size=12),
        Text((end + width / 2, height + 11), "right end B", ink="quiet", size=12),
        Text((above + length / 2, -14), "from above, lid off", ink="quiet", size=12),
    ]
    return Drawing(tuple(items), "the box to scale")


def _from_above(piece: Piece, box: Box, x: float, y: float) -> list[Primitive]:
    length, width, _ = box.outside
    t = box.thickness
    items: list[Primitive] = [Area(rectangle(x, y, length, width), "end grain", edge="outline")]
    inner = rectangle(x + t["D"], y + t["A"], length - t["B"] - t["D"], width - t["A"] - t["C"])
    items.append(Area(inner, "wood", edge="outline", tag="part:bottom", hint="bottom"))
    items += face_figure(x + t["D"], y + t["A"], length - t["B"] - t["D"], width - t["A"] - t["C"], 10, 6)
    for a, b in (
        ((x, y + t["A"]), (x + length, y + t["A"])),
        ((x, y + width - t["C"]), (x + length, y + width - t["C"])),
    ):
        items.append(Line((a, b), "outline"))
    for part, px, py in (
        ("A", length / 2, t["A"] / 2),
        ("C", length / 2, width - t["C"] / 2),
        ("D", t["D"] / 2, width / 2),
        ("B", length - t["B"] / 2, width / 2),
    ):
        items.append(Text((x + px, y + py), part, bold=True, size=14, tag=f"part:{part}", halo=True))
    depth, thick = box.dado_depth, box.divider_thickness
    for i, c in enumerate(box.dado_centres):
        shape = rectangle(x + c - thick / 2, y + t["A"] - depth, thick, width - t["A"] - t["C"] + 2 * depth)
        items.append(Area(shape, "wood dark", edge="outline", tag=f"part:{i + 1}", hint=f"divider {i + 1}"))
    if box.dado_centres:
        first = x + t["D"]
        items.append(Dimension((first, y + width), (first + box.bay, y + width), box.bay, 12, "bay", ink="computed"))
        c = box.dado_centres[-1]
        items.append(
            Dimension(
                (x + c - thick / 2, y + width),
                (x + c + thick / 2, y + width),
                thick,
                12,
                edit="piece.divider_thickness",
                ink="computed",
            )
        )
    items.append(Dimension((x, y + t["A"]), (x, y), t["A"], -20, edit="measured.A"))
    items.append(
        Dimension(
            (x + length, y + width - t["C"]), (x + length, y + t["A"]), box.inside[1], 20, "inside", ink="computed"
        )
    )
    return items


def _corner(piece: Piece, box: Box, name: str) -> Dovetail | None:
    for corner, tail, pin, joint_width in corners(box):
        if corner == name:
            try:
                return corner_layout(piece, box, tail, pin, joint_width)
            except NoDovetail:
                return None
    return None


def _front(piece: Piece, box: Box) -> list[Primitive]:
    length, _, height = box.outside
    items: list[Primitive] = [
        Area(rectangle(0, 0, length, height), "wood", edge="outline", tag="part:A", hint="A front")
    ]
    items += face_figure(0, 0, length, height, 20, 9)
    for name, end, inward in (("A-D", 0.0, 1.0), ("A-B", length, -1.0)):
        joint = _corner(piece, box, name)
        if joint is not None:
            items += [Area(shape, "end grain", edge="outline") for shape in tail_outline(joint, end, inward)]
    groove = box.groove_from_edge
    for low in (groove, groove + box.bottom_thickness):
        items.append(Line(((box.thickness["D"], low), (length - box.thickness["B"], low)), "faint", dash=True))
    if piece.lid == "sliding":
        top = height - box.lid_from_edge
        items += [
            Line(((box.thickness["D"] / 2, v), (length, v)), "faint", dash=True) for v in (top, top - box.lid_thickness)
        ]
        items.append(
            Dimension(
                (length, top),
                (length, top - box.lid_thickness),
                box.lid_thickness,
                16,
                edit="piece.lid_thickness",
                ink="computed",
            )
        )
    items.append(
        Dimension(
            (length, groove + box.bottom_thickness),
            (length, groove),
            box.bottom_thickness,
            16,
            edit="piece.bottom_thickness",
            ink="computed",
        )
    )
    items.append(Text((length / 2, height / 2), "A", bold=True, size=34, ink="faint", tag="part:A"))
    return items


def _end(piece: Piece, box: Box, x: float) -> list[Primitive]:
    _, width, height = box.outside
    t = box.thickness
    low = box.part("B").width
    items: list[Primitive] = [
        Area(rectangle(x, 0, width, low), "wood", edge="outline", tag="part:B", hint="B right end")
    ]
    items += face_figure(x, 0, width, low, 20, 8)
    joint = _corner(piece, box, "A-B")
    if joint is not None:
        for lower, upper in joint.tails_at_end():
            items.append(Area(rectangle(x, lower, t["A"], upper - lower), "end grain", edge="outline"))
            items.append(Area(rectangle(x + width - t["C"], lower, t["C"], upper - lower), "end grain", edge="outline"))
    if low < height - 0.01:
        for left in (x, x + width - t["C"]):
            thick = t["A"] if left == x else t["C"]
            items.append(Area(rectangle(left, low, thick, height - low), "wood dark", edge="outline"))
        top = height - box.lid_from_edge
        depth = box.groove_depth
        lid = rectangle(
            x + t["A"] - depth, top - box.lid_thickness, width - t["A"] - t["C"] + 2 * depth, box.lid_thickness
        )
        items.append(Area(lid, "computed wash", edge="computed", tag="part:lid", hint="lid"))
        items.append(Dimension((x + width, low), (x + width, 0), low, 18, ink="computed"))
    items.append(Text((x + width / 2, low / 2), "B", bold=True, size=34, ink="faint", tag="part:B"))
    return items
