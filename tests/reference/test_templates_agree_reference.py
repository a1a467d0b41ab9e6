"""One joint's full-size template as PDF, SVG and DXF, each read by a reader of its own, against corners worked out by hand.

DXF is read by its group codes alone (pairs of lines: a code and a value; 10 and 20 are x and y; reference of the format, from memory).
"""

import io
import re
from xml.etree import ElementTree

import ezdxf
import pytest
from pypdf import PdfReader
from test_full_size_reference import straight_lines
from two_parts import joined, part

from nullah.core.document.pieces import Designed
from nullah.core.document.project import Project
from nullah.core.pictures import full_size
from nullah.core.planning.plan import plan
from nullah.formats import template
from nullah.formats.export import export

CLOSE = 0.05  # mm
SVG = "{http://www.w3.org/2000/svg}"


def in_pdf(now):
    reader = PdfReader(io.BytesIO(template.pdf(now)))
    return [straight_lines(page, reader) for page in reader.pages]


def segments(points, closed):
    return list(zip(points, [*points[1:], *points[: 1 if closed else 0]], strict=False))


def in_svg(text):
    root = ElementTree.fromstring(text)
    mm = float(root.get("width").removesuffix("mm")) / float(root.get("viewBox").split()[2])
    found = []
    for kind in ("polygon", "polyline"):
        for one in root.iter(f"{SVG}{kind}"):
            points = [
                tuple(float(v) * mm * way for v, way in zip(p.split(","), (1, -1), strict=True))
                for p in one.get("points").split()
            ]
            found += segments(points, kind == "polygon")
    return found


def in_dxf(text):
    """Segments of every polyline, and the layers they are on."""
    lines = text.splitlines()
    pairs = [(int(a), b.strip()) for a, b in zip(lines[::2], lines[1::2], strict=True)]
    assert (9, "$INSUNITS") in pairs
    assert pairs[pairs.index((9, "$INSUNITS")) + 1] == (70, "4")  # millimetres
    found, layers, at = [], set(), pairs.index((2, "ENTITIES"))
    while at < len(pairs) and pairs[at] != (0, "ENDSEC"):
        if pairs[at] == (0, "LWPOLYLINE"):
            closed, xs, ys, at = False, [], [], at + 1
            while pairs[at][0] != 0:
                code, value = pairs[at]
                closed |= code == 70 and int(value) & 1 == 1
                xs += [float(value)] if code == 10 else []
                ys += [float(value)] if code == 20 else []
                layers |= {value} if code == 8 else set()
                at += 1
            found += segments(list(zip(xs, ys, strict=True)), closed)
        else:
            at += 1
    return found, layers


def holds(lines, wanted):
    """Whether all wanted lines are there at one place of the page, either way round."""

    def near(p, q, origin):
        return abs(p[0] - q[0] - origin[0]) < CLOSE and abs(p[1] - q[1] - origin[1]) < CLOSE

    (a, b), *_ = wanted
    for p, q in lines:
        for start, end in ((p, q), (q, p)):
            origin = (start[0] - a[0], start[1] - a[1])
            if near(end, b, origin) and all(
                any(
                    (near(r, c, origin) and near(s, d, origin)) or (near(r, d, origin) and near(s, c, origin))
                    for r, s in lines
                )
                for c, d in wanted
            ):
                return True
    return False


def lapped():
    """A rail of 50 in the top of a leg of 60: a tail 30 long, 30 at its neck, 40 at its end; the socket as it is traced."""
    first = part("rail", 400, 50, 20, "up", "back", (0, 5, 700))
    second = part("leg", 720, 60, 60, "front", "right", (400, 0, 0))
    now = joined("lapped_dovetail", first, second, "right", length=30.0, slope=6.0, neck=30.0)
    rail = [
        ((400, 0), (400, 10)),
        ((400, 10), (430, 5)),
        ((400, 50), (400, 40)),
        ((400, 40), (430, 45)),
        ((430, 0), (430, 50)),
    ]
    leg = [((0, 45), (0, 15)), ((0, 15), (30, 10)), ((30, 10), (30, 50)), ((30, 50), (0, 45))]
    return now, [rail, leg]


def tenoned():
    """A rail of 80 in a leg of 48: 8 thick with shoulders of 12 and 5, 32 long; its mortise 63 by 8, 20 from the leg's face."""
    first = part("rail", 300, 80, 24, "front", "up")
    now = joined(
        "mortise_and_tenon", first, part("leg", 120, 48, 48, "front", "right", (300, -12, 0)), "right", thickness=8.0
    )
    mortise = [((12, 20), (75, 20)), ((75, 20), (75, 28)), ((75, 28), (12, 28)), ((12, 28), (12, 20))]
    face = [((300, 0), (332, 0)), ((300, 0), (300, 80)), ((332, 0), (332, 80))]
    return now, [mortise, face]


def dovetailed():
    """Two boards of 100 by 12, three tails: half pins 6, pins 6 at the mouth: a step of (100 - 12 + 6) / 3, slopes of 12 / 7."""
    asked = {"width": 100.0, "thickness": 12.0, "tails": 3, "pin": 6.0, "slope": 7.0}
    now = plan(Project(pieces=(Designed(kind="practice_joint", name="Try", asked=asked),)))
    step, lean = 94 / 3, 12 / 7
    tails = [(6 + n * step, 6 + n * step + step - 6) for n in range(3)]
    wanted = [((0.0, 0.0), (0.0, 100.0))]  # the fold, over the end of the board
    for low, high in tails:
        wanted += [((0.0, low), (12.0, low + lean)), ((0.0, high), (12.0, high - lean))]
    return now, [wanted]


@pytest.mark.parametrize("made", [lapped, tenoned, dovetailed])
def test_pdf_svg_and_dxf_have_the_same_corners(made, tmp_path):
    now, sides = made()
    files = export(now, tmp_path)
    drawn = [f.read_text() for f in files if re.fullmatch(r"full-size-\d\d\.svg", f.name)]
    cut = [f for f in files if f.suffix == ".dxf"]
    assert len(drawn) == len(cut) == len(full_size.sheets(now))
    for wanted in sides:
        swapped = [tuple((y, x) for x, y in line) for line in wanted]  # a side may be drawn with its axes the other way
        mirrored = [tuple((x, -y) for x, y in line) for line in wanted]
        ways = (wanted, swapped, mirrored, [tuple((-x, y) for x, y in line) for line in wanted])
        assert any(any(holds(page, w) for page in in_pdf(now)) for w in ways), "PDF"
        assert any(any(holds(in_svg(text), w) for text in drawn) for w in ways), "SVG"
        assert any(any(holds(in_dxf(f.read_text())[0], w) for f in cut) for w in ways), "DXF"
    for f in cut:
        assert not ezdxf.readfile(f).audit().errors
    assert {"side", "cut"} <= set().union(*(in_dxf(f.read_text())[1] for f in cut))


def test_a_story_stick_has_its_marks_in_all_three(tmp_path):
    """A shelf 800 wide between sides of 18: marks at 0, 18, 782 and 800, each right across a stick of 30."""
    now = plan(Project(pieces=(Designed(kind="shelves", name="Try", asked={"width": 800.0}),)))
    files = export(now, tmp_path)
    wanted = [((x, 0.0), (x, 30.0)) for x in (0.0, 18.0, 782.0, 800.0)]
    assert any(
        holds(in_svg(f.read_text()), wanted) for f in files if f.name.startswith("full-size") and f.suffix == ".svg"
    )
    assert any(holds(in_dxf(f.read_text())[0], wanted) for f in files if f.suffix == ".dxf")
    # on paper it runs over three pages; what is seen of it on the first are the marks on the left
    assert any(holds(page, wanted[:2]) for page in in_pdf(now))
    assert not any(holds(page, [((0.0, 0.0), (0.0, 30.0)), ((18.2, 0.0), (18.2, 30.0))]) for page in in_pdf(now))
