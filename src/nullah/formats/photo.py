"""A photograph read in, JPEG or PNG: bounded before it is decoded, stood upright, and made a small copy that a project can keep."""

from __future__ import annotations

import base64
import io
import warnings
from pathlib import Path

from PIL import Image, ImageOps, UnidentifiedImageError

from nullah.core.values.frozen import frozen
from nullah.formats.trouble import FileTrouble
from nullah.formats.writing import read_bounded

LARGEST = 40 * 1024 * 1024  # bytes of the file
MOST_PIXELS = 60_000_000  # of what is decoded: some 240 MB while it is made small
LEAST = 16  # pixels across, to see anything by
KEPT = 1200  # pixels of the longer side of the copy
MOST_KEPT = 400_000  # bytes of the copy
KINDS = ("JPEG", "PNG")


@frozen
class Photo:
    """A small copy: its file's name, the JPEG as base64 text, pixels across and down."""

    name: str
    jpeg: str
    wide: int
    tall: int


def read(path: Path) -> Photo:
    """The small copy of a photograph.

    Raises:
        FileTrouble: it cannot be read, is neither JPEG nor PNG, is broken, or is too large or too small to be of use.
    """
    data = read_bounded(path, LARGEST)
    name = path.name
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")  # Pillow's own bound is looked at below, before anything is decoded
            picture = Image.open(io.BytesIO(data), formats=KINDS)
    except UnidentifiedImageError:
        raise FileTrouble(f"{name} is no JPEG and no PNG picture.") from None
    except (OSError, ValueError, SyntaxError, Image.DecompressionBombError) as error:
        raise FileTrouble(f"{name} is too large or too broken a picture to be read ({type(error).__name__}).") from None
    wide, tall = picture.size
    if picture.format == "JPEG":
        picture.draft("RGB", (2 * KEPT, 2 * KEPT))  # decoded at a half, a quarter or an eighth where it is that large
    if picture.size[0] * picture.size[1] > MOST_PIXELS:
        raise FileTrouble(
            f"{name} has {wide} by {tall} pixels; {MOST_PIXELS // 1_000_000} million are the most that is read."
        )
    if min(wide, tall) < LEAST:
        raise FileTrouble(f"{name} has {wide} by {tall} pixels; nothing is to be seen on so few.")
    try:
        small = ImageOps.exif_transpose(picture)
        small.thumbnail((KEPT, KEPT))
        flat = Image.new("RGB", small.size, "white")  # what is seen through is white
        clear = small.convert("RGBA").getchannel(3) if small.has_transparency_data else None
        flat.paste(small.convert("RGB"), mask=clear)
    except (OSError, ValueError, SyntaxError, EOFError, Image.DecompressionBombError):
        raise FileTrouble(f"{name} is a broken picture: it ends before it is whole.") from None
    return Photo(name[:120], _packed(flat), *flat.size)


def _packed(flat: Image.Image) -> str:
    """As JPEG within ``MOST_KEPT``, as good as that allows."""
    for quality in (80, 65, 50, 35, 20):
        out = io.BytesIO()
        flat.save(out, "JPEG", quality=quality, optimize=True)
        if out.tell() <= MOST_KEPT:
            break
    return base64.b64encode(out.getvalue()).decode()
