"""A layout made without a project, as files: plan.json, and beside it CSV, SVG and PDF."""

from __future__ import annotations

import csv
import io
import json
from collections.abc import Callable, Mapping, Sequence
from typing import Any

from nullah.core.document.project import BoardLayout
from nullah.core.layout.bound import Bound
from nullah.core.layout.model import Layout, leaves
from nullah.core.layout.saw import SawBoard, SawCut, Totals, saw_plan, totals
from nullah.core.pictures import laid
from nullah.core.values.frozen import frozen
from nullah.core.values.measure import told
from nullah.formats.cells import safe
from nullah.formats.tables import Orders

DIGITS = 4  # of a mm, in files: a tenth of a micrometre, so that no sum of sizes and kerfs is lost in rounding


@frozen
class Made:
    """What a run of the planner brings: the tables, the layout, its bound, the saw plan and what it comes to."""

    orders: Orders
    layout: Layout
    bound: Bound
    saw: tuple[SawCut, ...]
    sums: Totals
    placed: float
    rounds: int
    seed: int


def made(orders: Orders, layout: Layout, bound: Bound, placed: float, rounds: int, seed: int) -> Made:
    """All of a run, with its saw plan."""
    saw = saw_plan(layout.boards, {s.id: SawBoard(s.thickness, s.hardness) for s in orders.stock})
    return Made(orders, layout, bound, saw, totals(saw), placed, rounds, seed)


def _mm(value: float) -> float:
    return round(float(value), DIGITS)


def placements(boards: Sequence[BoardLayout], copies: Mapping[str, tuple[str, int]]) -> list[dict[str, Any]]:
    """Each part's rectangle on its board, in the order the saw frees them."""
    out = []
    for b in boards:
        for n in leaves(b.root):
            if n.use == "part":
                part, copy = copies[n.part]
                sizes = {"x": _mm(n.x), "y": _mm(n.y), "length": _mm(n.length), "width": _mm(n.width)}
                out.append({"part": part, "copy": copy, "board": b.board, **sizes})
    return out


def as_json(m: Made) -> str:
    """``plan.json``; docs/files.md says what stands in it."""
    copies = m.orders.copies
    cuts = [
        {
            "number": c.number,
            "board": c.board,
            "kind": c.kind,
            "at": _mm(c.at),
            "from": c.edge,
            "over": _mm(c.over),
            "kerf": _mm(c.node.kerf),
            "board_at": _mm(c.node.at),
            "piece": {"x": _mm(c.node.x), "y": _mm(c.node.y), "length": _mm(c.node.length), "width": _mm(c.node.width)},
            "frees": [{"part": copies[f][0], "copy": copies[f][1]} for f in c.frees],
            "side": c.side,
            "minutes": round(c.minutes, 1),
        }
        for c in m.saw
    ]
    offcuts = [
        {"board": b.board, "x": _mm(n.x), "y": _mm(n.y), "length": _mm(n.length), "width": _mm(n.width)}
        for b in m.layout.boards
        for n in leaves(b.root)
        if n.use == "offcut"
    ]
    whole = {
        "placements": placements(m.layout.boards, copies),
        "unplaced": [
            {"part": copies[p][0], "copy": copies[p][1], "why": told(reason)} for p, reason in m.layout.unplaced
        ],
        "placed_area_share": round(m.placed, 6),
        "bound": {
            "placed_area_share_at_most": round(min(1.0, m.bound.placed_area_share_at_most + 5e-7), 6),
            "species": [
                {"species": name, "usable_mm2": round(room), "asked_mm2": round(asked)}
                for name, room, asked in m.bound.by_species
            ],
        },
        "cuts": cuts,
        "offcuts": offcuts,
        "sawing": {
            "cuts": m.sums.cuts,
            "settings": m.sums.settings,
            "crosscut_m": round(m.sums.across_m, 3),
            "rip_m": round(m.sums.along_m, 3),
            "crosscut_m2": round(m.sums.across, 5),
            "rip_m2": round(m.sums.along, 5),
            "minutes": round(m.sums.minutes, 1),
        },
        "seed": m.seed,
        "rounds": m.rounds,
    }
    return json.dumps(whole, indent=1, allow_nan=False) + "\n"


def as_csv(m: Made) -> str:
    """The placements as a table, and the parts without a place at its end, with no board."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(["part", "copy", "board", "x", "y", "length", "width"])
    for p in placements(m.layout.boards, m.orders.copies):
        writer.writerow([safe(p["part"]), p["copy"], safe(p["board"]), p["x"], p["y"], p["length"], p["width"]])
    for key, _ in m.layout.unplaced:
        part, copy = m.orders.copies[key]
        writer.writerow([safe(part), copy, "", "", "", "", ""])
    return out.getvalue()


def _name(m: Made) -> Callable[[str], str]:
    many = {part for part, copy in m.orders.copies.values() if copy > 1}

    def name(key: str) -> str:
        part, copy = m.orders.copies[key]
        return f"{part} {copy}" if part in many else part

    return name


def as_svg(m: Made) -> str:
    """The boards laid out, as a picture."""
    from nullah.formats import svg

    drawing = laid.drawing(m.orders.stock, m.layout.boards, m.saw, _name(m))
    return svg.text(drawing, lambda mm: f"{mm:g}", told, name="boards laid out")


def as_pdf(m: Made) -> bytes:
    """The boards laid out, two or so a page, and the cuts in order."""
    from nullah.formats import layout_sheet

    return layout_sheet.pdf(
        m.orders.stock, m.layout.boards, m.saw, m.sums, _name(m), {s.id: s.name for s in m.orders.stock}
    )
