"""A full-size drawing as DXF, release 2010, in mm, one drawing unit to the mm, by layers with names.

``side``: the edges of the part, or of the stick; ``cut``: lines that are sawn or chopped to; ``waste``: what is taken away, hatched;
``mark``: lines of a story stick and what else is only marked; ``text``: words, their height in mm.
"""

from __future__ import annotations

import io
from collections.abc import Callable

from nullah.core.drawing.display_list import Area, Drawing, Line, Text

LAYERS = {"side": 7, "cut": 1, "waste": 8, "mark": 5, "text": 3}  # with the index of their colour
LETTER = 0.62 * 25.4 / 72  # mm for a pixel of a text's size, as on the PDF page
_ALIGN = {"left": "BOTTOM_LEFT", "centre": "BOTTOM_CENTER", "right": "BOTTOM_RIGHT"}


def text(drawing: Drawing, told: Callable[[str], str], name: str = "") -> str:
    """The drawing as a DXF document; lengths in its words by ``told``."""
    from ezdxf.document import Drawing as Document  # half a second: only where it is wanted
    from ezdxf.enums import TextEntityAlignment
    from ezdxf.units import MM

    document = Document.new("R2010")
    document.units = MM
    document.header["$MEASUREMENT"] = 1  # metric
    if name:
        document.header.custom_vars.append("Title", _literal(name))
    for layer, colour in LAYERS.items():
        document.layers.add(layer, color=colour)
    space = document.modelspace()
    for item in drawing.everything():
        if isinstance(item, Area):
            if item.edge:
                space.add_lwpolyline(item.points, close=True, dxfattribs={"layer": "side"})
            if item.hatch:
                waste = space.add_hatch(dxfattribs={"layer": "waste"})
                waste.set_pattern_fill("ANSI31", scale=1.0)
                waste.paths.add_polyline_path(item.points, is_closed=True)
        elif isinstance(item, Line):
            layer = "mark" if item.dash or item.ink == "faint" or item.tag == "mark" else "cut"
            space.add_lwpolyline(item.points, dxfattribs={"layer": layer})
        elif isinstance(item, Text):
            words = space.add_text(_literal(told(item.text)), height=item.size * LETTER, dxfattribs={"layer": "text"})
            words.set_placement(item.at, align=TextEntityAlignment[_ALIGN.get(item.align, "BOTTOM_CENTER")])
    out = io.StringIO()
    document.write(out)
    return out.getvalue()


def _literal(words: str) -> str:
    """Words as they are read: ``%%`` begins a special character in a DXF text, and ``^`` a control character."""
    return words.replace("%%", "% %").replace("^", "^ ")
