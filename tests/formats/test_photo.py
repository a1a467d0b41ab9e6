"""Photographs: what is read of good ones, and one sentence for each that is not."""

import base64
import io
import resource
import struct
import zlib

import pytest
from PIL import Image

from nullah.core.document.project import Project
from nullah.core.edits import guide_edits
from nullah.core.edits.edit import BadEdit
from nullah.formats import photo, project_file
from nullah.formats.trouble import FileTrouble


def png_chunk(kind, data):
    return struct.pack(">I", len(data)) + kind + data + struct.pack(">I", zlib.crc32(kind + data))


def png(wide, tall, body=b""):
    """A PNG of grey pixels that says it is so large, whatever its body."""
    head = png_chunk(b"IHDR", struct.pack(">IIBBBBB", wide, tall, 8, 0, 0, 0, 0))
    return b"\x89PNG\r\n\x1a\n" + head + png_chunk(b"IDAT", body) + png_chunk(b"IEND", b"")


def saved(kind, size=(300, 200), mode="RGB", **how):
    out = io.BytesIO()
    Image.effect_noise(size, 60).convert(mode).save(out, kind, **how)
    return out.getvalue()


HOSTILE = {
    "empty": (b"", "is no JPEG and no PNG"),
    "text with a picture's name": (b"this is no picture at all " * 20, "is no JPEG and no PNG"),
    "of another kind": (saved("GIF"), "is no JPEG and no PNG"),
    "TIFF": (saved("TIFF"), "is no JPEG and no PNG"),
    "a JPEG cut short": (saved("JPEG")[:3000], "ends before it is whole"),
    "a PNG cut short": (saved("PNG")[:3000], "ends before it is whole"),
    "a PNG whose pixels are rubbish": (png(200, 200, b"\x00" * 50), "ends before it is whole"),
    "a bomb": (png(60_000, 60_000, zlib.compress(bytes(4_000_000), 9)), "million are the most|too large"),
    "a bomb that says it is not quite one": (png(9_000, 9_000, zlib.compress(bytes(9_001 * 9_000), 9)), "60 million are the most"),
    "one pixel": (png(1, 1, zlib.compress(b"\x00\x00")), "nothing is to be seen"),
    "head alone": (b"\xff\xd8\xff\xe0", "no JPEG and no PNG|too broken"),
    "a bomb of words": (
        b"\x89PNG\r\n\x1a\n"
        + png_chunk(b"IHDR", struct.pack(">IIBBBBB", 50, 50, 8, 0, 0, 0, 0))
        + png_chunk(b"zTXt", b"x\x00\x00" + zlib.compress(bytes(80_000_000), 9))
        + png_chunk(b"IDAT", zlib.compress(bytes(51 * 50)))
        + png_chunk(b"IEND", b""),
        "too large or too broken|ends before it is whole",
    ),
}  # fmt: skip


@pytest.mark.parametrize("name", HOSTILE)
def test_a_hostile_picture_gets_one_sentence(tmp_path, name):
    data, told = HOSTILE[name]
    path = tmp_path / "guide.jpg"
    path.write_bytes(data)
    before = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss
    with pytest.raises(FileTrouble, match=told) as said:
        photo.read(path)
    words = str(said.value)
    assert words.endswith(".")
    assert "\n" not in words
    assert "guide.jpg" in words
    assert resource.getrusage(resource.RUSAGE_SELF).ru_maxrss - before < 300_000  # KiB


def test_what_is_no_plain_file_or_too_large_is_refused(tmp_path, monkeypatch):
    for path in (tmp_path, tmp_path / "none.png"):
        with pytest.raises(FileTrouble):
            photo.read(path)
    monkeypatch.setattr(photo, "LARGEST", 10_000)
    (tmp_path / "big.jpg").write_bytes(saved("JPEG", (800, 800), quality=95))
    with pytest.raises(FileTrouble, match="larger than"):
        photo.read(tmp_path / "big.jpg")


@pytest.mark.parametrize(
    ("kind", "mode", "size"),
    [
        ("JPEG", "RGB", (4000, 3000)),
        ("JPEG", "L", (640, 480)),
        ("JPEG", "CMYK", (640, 480)),
        ("PNG", "RGBA", (2400, 300)),
        ("PNG", "P", (200, 900)),
        ("PNG", "1", (200, 200)),
    ],
)
def test_a_small_copy_keeps_the_shape_and_fits_a_project(tmp_path, kind, mode, size):
    path = tmp_path / "chest.picture"
    path.write_bytes(saved(kind, size, mode))
    found = photo.read(path)
    copy = Image.open(io.BytesIO(base64.b64decode(found.jpeg)))
    assert copy.format == "JPEG"
    assert copy.size == (found.wide, found.tall)
    assert max(copy.size) <= 1200
    assert found.wide / found.tall == pytest.approx(size[0] / size[1], rel=0.02)
    project = guide_edits.put(Project(), found.name, found.jpeg, found.wide, found.tall)
    assert project_file.loads(project_file.dumps(project)) == project
    assert len(project_file.dumps(project)) < 600_000


def test_a_picture_taken_on_its_side_stands_upright(tmp_path):
    exif = Image.Exif()
    exif[0x0112] = 6  # turned by a quarter (EXIF 2.3, orientation)
    path = tmp_path / "side.jpg"
    path.write_bytes(saved("JPEG", (400, 100), exif=exif.tobytes()))
    found = photo.read(path)
    assert (found.wide, found.tall) == (100, 400)


def test_a_length_is_read_by_one_that_is_known():
    project = guide_edits.put(Project(), "chest.jpg", "abcd", 1200, 800)
    with pytest.raises(BadEdit, match="Say one length first"):
        guide_edits.reads(guide_edits.of(project), (0, 0, 100, 0))
    project = guide_edits.know(project, (100, 700, 700, 700), 900.0)  # 600 pixels are 900 mm
    guide = guide_edits.of(project)
    assert guide_edits.reads(guide, (100, 700, 100, 400)) == pytest.approx(450.0)
    assert guide_edits.reads(guide, (0, 0, 30, 40)) == pytest.approx(75.0)  # along a slope
    assert guide_edits.finest(guide) == pytest.approx(1.5)
    with pytest.raises(BadEdit, match="too near"):
        guide_edits.reads(guide, (5, 5, 6, 6))
    with pytest.raises(BadEdit):
        guide_edits.know(project, (100, 700, 700, 700), -1.0)
    assert guide_edits.of(guide_edits.drop(project)) is None
