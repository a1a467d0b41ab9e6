"""The box to scale: front A, right end B, and from above with the lid off, in a row."""

from __future__ import annotations

from nullah.core.document_pieces import Piece
from nullah.core.drawing import Area, Dimension, Drawing, Handle, Line, Primitive, Text, rectangle
from nullah.core.joints.dovetail import Dovetail, NoDovetail, tail_outline
from nullah.core.pictures import seen
from nullah.core.pictures.wood import PartWood, woods
from nullah.core.pieces.box import Box, corner_layout, corners
from nullah.core.plan import Plan

MOST_BAYS = 12  # bays that are given a dimension each, where they differ


def picture(piece: Piece, box: Box, wood: dict[str, PartWood]) -> Drawing:
    """Three views in a row; dimensions to type on, handles to pull and dividers to shift where that has a meaning."""
    length, width, height = box.outside
    gap = max(64.0, 0.2 * length)
    end, above = length + gap, length + gap + width + 1.9 * gap
    items: list[Primitive] = []
    items += _front(piece, box, wood["A"])
    items += _end(piece, box, end, wood["B"])
    items += _from_above(piece, box, above, 0.0, wood)
    items += [
        Dimension((0, 0), (length, 0), length, -26, edit="outside.0"),
        Dimension((0, 0), (0, height), height, 26, edit="outside.2"),
        Dimension((end, 0), (end + width, 0), width, -26, edit="outside.1"),
        Text((length / 2, height + 11), "front A", ink="quiet", size=12),
        Text((end + width / 2, height + 11), "right end B", ink="quiet", size=12),
        Text((above + length / 2, -14), "from above, lid off", ink="quiet", size=12),
        Handle((length, height / 2), "size:0", "along", "pull for another length"),
        Handle((length * 0.8, height), "size:2", "up", "pull for another height"),
        Handle((end + width, box.part("B").width / 2), "size:1", "along", "pull for another width"),
    ]
    return Drawing(tuple(items), "the box to scale")


def of(plan: Plan) -> Drawing:
    """The three views of the piece in hand; empty where it cannot be made."""
    p = plan.project
    if plan.piece.box is None:
        return seen.views(plan)
    pre = plan.piece.in_hand.prefix
    found = woods(plan.piece.in_hand.parts, plan.breakdown, p.boards)
    drawing = picture(p.piece, plan.piece.box, {name.removeprefix(pre): wood for name, wood in found.items()})
    return drawing.of_piece(pre) if pre else drawing


def _from_above(piece: Piece, box: Box, x: float, y: float, wood: dict[str, PartWood]) -> list[Primitive]:
    length, width, _ = box.outside
    t = box.thickness
    items: list[Primitive] = [Area(rectangle(x, y, length, width), f"end {piece.wall_species}", edge="outline")]
    inner = rectangle(x + t["D"], y + t["A"], length - t["B"] - t["D"], width - t["A"] - t["C"])
    items.append(Area(inner, f"wood {piece.panel_species}", edge="outline", tag="part:bottom", hint="bottom"))
    items += wood["bottom"].face(length - t["B"] - t["D"], width - t["A"] - t["C"], (x + t["D"], y + t["A"]))
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
    depth = box.dado_depth
    for i, (c, thick) in enumerate(zip(box.dado_centres, box.divider_thicknesses, strict=True)):
        shape = rectangle(x + c - thick / 2, y + t["A"] - depth, thick, width - t["A"] - t["C"] + 2 * depth)
        hint = f"divider {i + 1}: pull to shift it"
        items.append(Area(shape, f"end {piece.panel_species}", edge="outline", tag=f"divider:{i + 1}", hint=hint))
    if box.dado_centres:
        first = x + t["D"]
        bays = (0,) if box.even else range(min(len(box.bays), MOST_BAYS))
        at = first
        for i, bay in enumerate(box.bays):
            if i in bays:
                words = "bay" if box.even else ""
                items.append(Dimension((at, y + width), (at + bay, y + width), bay, 12, words, ink="computed"))
            at += bay + (box.divider_thicknesses[i] if i < len(box.divider_thicknesses) else 0.0)
        c, thick = box.dado_centres[-1], box.divider_thicknesses[-1]
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


def _front(piece: Piece, box: Box, wood: PartWood) -> list[Primitive]:
    length, _, height = box.outside
    items: list[Primitive] = [
        Area(
            rectangle(0, 0, length, height), f"wood {piece.wall_species}", edge="outline", tag="part:A", hint="A front"
        )
    ]
    items += wood.face(length, height)
    for name, end, inward in (("A-D", 0.0, 1.0), ("A-B", length, -1.0)):
        joint = _corner(piece, box, name)
        if joint is not None:
            items += [
                Area(shape, f"end {piece.wall_species}", edge="outline") for shape in tail_outline(joint, end, inward)
            ]
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
    items.append(Text((length / 2, height / 2), "A", bold=True, size=26, tag="part:A", halo=True))
    return items


def _end(piece: Piece, box: Box, x: float, wood: PartWood) -> list[Primitive]:
    _, width, height = box.outside
    t = box.thickness
    low = box.part("B").width
    items: list[Primitive] = [
        Area(
            rectangle(x, 0, width, low), f"wood {piece.wall_species}", edge="outline", tag="part:B", hint="B right end"
        )
    ]
    items += wood.face(width, low, (x, 0.0))
    joint = _corner(piece, box, "A-B")
    if joint is not None:
        for lower, upper in joint.tails_at_end():
            for left, thick in ((x, t["A"]), (x + width - t["C"], t["C"])):
                shape = rectangle(left, lower, thick, upper - lower)
                items.append(Area(shape, f"end {piece.wall_species}", edge="outline"))
    if low < height - 0.01:
        for left in (x, x + width - t["C"]):
            thick = t["A"] if left == x else t["C"]
            items.append(Area(rectangle(left, low, thick, height - low), f"wood {piece.wall_species}", edge="outline"))
        top = height - box.lid_from_edge
        depth = box.groove_depth
        lid = rectangle(
            x + t["A"] - depth, top - box.lid_thickness, width - t["A"] - t["C"] + 2 * depth, box.lid_thickness
        )
        items.append(Area(lid, "computed wash", edge="computed", tag="part:lid", hint="lid"))
        items.append(Dimension((x + width, low), (x + width, 0), low, 18, ink="computed"))
    items.append(Text((x + width / 2, low / 2), "B", bold=True, size=26, tag="part:B", halo=True))
    return items
