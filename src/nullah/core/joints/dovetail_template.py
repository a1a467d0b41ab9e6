"""The template of a dovetailed corner: the tail board's end at full size, to be folded over it."""

from __future__ import annotations

from nullah.core.drawing.display_list import Area, Drawing, Line, Primitive, Text
from nullah.core.joints.dovetail import Dovetail, tail_outline

BEYOND = 12.0  # mm of the board shown beyond the baseline
Groovings = tuple[tuple[float, float, float, str], ...]  # low, high, where it begins from the end, name; mm


def template(
    joint: Dovetail, tail: str, pin: str, base: float | None = None, slot: float = 0.0, grooves: Groovings = ()
) -> Drawing:
    """The tail board's end seen on its outside face, and beyond x = 0 the end grain: folded there, it lies on both.

    Lines in mm: the end at x = 0, the baseline at ``base`` (the mating thickness where none is given), tails from the reference
    edge at y = 0 upward; ``slot`` mm of board above the joint; ``grooves`` of the inside face, dashed, from where they begin.
    """
    w, own = joint.width, joint.own
    base = joint.mating if base is None else base
    run = base / joint.run
    items: list[Primitive] = [Area(shape, "waste", hatch=True, opacity=0.5) for shape in tail_outline(joint, base=base)]
    items += [
        Line(((0.0, 0.0), (0.0, w)), "outline", dash=True, tag="fold"),
        Line(((base, 0.0), (base, w)), "computed", tag="baseline"),
        Line(((-own, 0.0), (-own, w)), "outline", tag="far side"),
    ]
    for y in (0.0, w, *((w + slot,) if slot > 0 else ())):
        items.append(Line(((-own, y), (base + BEYOND, y)), "outline", tag="edge"))
    for low, high in joint.tails_at_end():
        for y, y_base in ((low, low + run), (high, high - run)):
            items.append(Line(((0.0, y), (base, y_base)), "ink", tag="tail"))
            items.append(Line(((-own, y), (0.0, y)), "ink", tag="across the end"))
    for low, high, start, name in grooves:
        for y in (low, high):
            items.append(Line(((start, y), (base + BEYOND, y)), "faint", dash=True, tag="groove"))
        if start > 0:
            items.append(Line(((start, low), (start, high)), "faint", dash=True, tag="groove stop"))
        words = f"{name}, inside" if start > 0 else f"{name}: open"
        items.append(Text((base + BEYOND + 2, (low + high) / 2), words, size=9, align="left"))
    items.append(Text((base + 4, w / 2), f"{tail}", size=24, bold=True, align="left"))
    items.append(Text((-own / 2, w + 5), "end grain", size=10))
    items.append(Text((base / 2, w + 5), "outside face", size=10))
    items.append(Text((base + 4, w / 2 - 10), f"for {pin}", size=11, align="left"))
    return Drawing(tuple(items))
