"""A drawing as SVG 1.1, to scale: one user unit is one mm at the scale given, y turned downward."""

from __future__ import annotations

from collections.abc import Callable
from xml.sax.saxutils import escape, quoteattr

from nullah.core.drawing.display_list import FINEST, Area, Drawing, Line, Point, Text
from nullah.core.drawing.ink import colour
from nullah.core.drawing.placing import FIGURE, Placed, hidden, place, text_box
from nullah.core.values.measure import decimals
from nullah.formats.paper import load_fonts, width_of

FACE = "Atkinson Hyperlegible Next, sans-serif"
PER_MM = 72 / 25.4  # user units to the mm, at full size
MARGIN = 60.0  # pixels round the drawing, for its dimensions


def text(
    drawing: Drawing,
    figures: Callable[[float], str],
    told: Callable[[str], str],
    wide: float = 1000.0,
    name: str = "",
    full_size: bool = False,
) -> str:
    """The picture as an SVG document ``wide`` pixels across, or at full size, lengths shown by ``figures``, sentences by ``told``."""
    load_fonts()
    left, low, right, top = drawing.extent()
    k = PER_MM if full_size else max(1e-6, (wide - 2 * MARGIN) / max(right - left, 1e-6))
    if full_size:
        wide = (right - left) * k + 2 * MARGIN
    tall = (top - low) * k + 2 * MARGIN

    def at(p: Point) -> str:
        return f"{decimals(MARGIN + (p[0] - left) * k, 2)},{decimals(MARGIN + (top - p[1]) * k, 2)}"

    def on_page(p: Point) -> Point:
        return (MARGIN + p[0] - left * k, MARGIN + top * k - p[1])

    out = [
        f'<svg xmlns="http://www.w3.org/2000/svg" {_size(wide, tall, full_size)} '
        f'viewBox="0 0 {decimals(wide, 2)} {decimals(tall, 2)}" role="img" aria-label={quoteattr(name or drawing.title or "drawing")}>',
        '<defs><pattern id="waste" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">'
        f'<line x1="0" y1="0" x2="0" y2="6" stroke="{colour("quiet")}" stroke-width="0.8"/></pattern></defs>',
        f'<rect width="100%" height="100%" fill="{colour("ground")}"/>',
    ]
    for item in drawing.everything():
        if isinstance(item, Area):
            out += _area(item, " ".join(at(p) for p in item.points))
        elif isinstance(item, Line) and (not item.detail or item.detail * k >= FINEST):
            dash = ' stroke-dasharray="5 4"' if item.dash else ""
            out.append(
                f'<polyline points="{" ".join(at(p) for p in item.points)}" fill="none" stroke="{colour(item.ink)}" '
                f'stroke-width="{item.width:g}"{dash}/>'
            )
        elif isinstance(item, Text):
            words = told(item.text)
            width = width_of(words, item.size, item.bold)
            if not hidden(item, k, width):
                box = text_box(item, k, width, 1.0)
                start = on_page((box[0], (box[1] + box[3]) / 2 - item.size * 0.35))
                out.append(_words(words, start, item.size, item.ink, item.bold))
    for one in place(Drawing(drawing.everything()), k, figures, told, width_of, 1.0):
        out += _dimension(one, on_page)
    return "\n".join([*out, "</svg>"]) + "\n"


def _size(wide: float, tall: float, full_size: bool) -> str:
    """How large the document is: so many pixels, or at full size so many mm."""
    if full_size:
        return f'width="{decimals(wide / PER_MM, 4)}mm" height="{decimals(tall / PER_MM, 4)}mm"'
    return f'width="{wide:.0f}" height="{tall:.0f}"'


def _area(item: Area, points: str) -> list[str]:
    fill = f'fill="{colour(item.ink)}" fill-opacity="{item.opacity:g}"' if item.ink else 'fill="none"'
    edge = f'stroke="{colour(item.edge)}"' if item.edge else 'stroke="none"'
    out = [f'<polygon points="{points}" {fill} {edge}/>']
    if item.hatch:
        out.append(f'<polygon points="{points}" fill="url(#waste)"/>')
    return out


def _words(words: str, at: Point, size: float, ink: str, bold: bool) -> str:
    weight = ' font-weight="bold"' if bold else ""
    return (
        f'<text x="{decimals(at[0], 2)}" y="{decimals(at[1], 2)}" font-family={quoteattr(FACE)} font-size="{size:g}"{weight} '
        f'fill="{colour(ink)}">{escape(words)}</text>'
    )


def _dimension(one: Placed, on_page: Callable[[Point], Point]) -> list[str]:
    ink = colour(one.item.ink)
    out = []
    for a, b in one.strokes:
        (ax, ay), (bx, by) = on_page(a), on_page(b)
        ends = f'x1="{decimals(ax, 2)}" y1="{decimals(ay, 2)}" x2="{decimals(bx, 2)}" y2="{decimals(by, 2)}"'
        out.append(f'<line {ends} stroke="{ink}" stroke-width="0.8"/>')
    for arrow in one.arrows:
        corners = " ".join(f"{decimals(x, 2)},{decimals(y, 2)}" for x, y in map(on_page, arrow))
        out.append(f'<polygon points="{corners}" fill="{ink}"/>')
    out.append(_words(one.words, on_page(one.at), FIGURE, one.item.ink, bool(one.item.edit)))
    return out
