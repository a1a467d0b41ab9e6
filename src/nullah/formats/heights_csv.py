"""Heights of a surface from CSV: numbers in mm, decimal points, no header, rows along the length, evenly spaced."""

from __future__ import annotations

from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from nullah.formats.trouble import FileTrouble
from nullah.formats.writing import read_bounded

LARGEST = 64 * 1024 * 1024  # bytes
HIGHEST = 20_000.0  # mm, as any length


def read(path: Path) -> NDArray[np.float64]:
    """The table, shaped (rows along, columns across), mm.

    Raises:
        FileTrouble: it cannot be read, has an empty or odd row, or a cell that is not a finite number.
    """
    try:
        text = read_bounded(path, LARGEST).decode("utf-8-sig")
    except UnicodeDecodeError:
        raise FileTrouble(f"{path.name} is not text.") from None
    rows: list[list[float]] = []
    for number, line in enumerate(text.splitlines(), 1):
        if not line.strip():
            continue
        try:
            row = [float(cell) for cell in line.split(",")]
        except ValueError:
            raise FileTrouble(f"{path.name}, line {number}: a cell is not a number.") from None
        if not np.isfinite(row).all():
            raise FileTrouble(f"{path.name}, line {number}: a cell is not a finite number.")
        if np.abs(row).max(initial=0.0) > HIGHEST:
            raise FileTrouble(f"{path.name}, line {number}: a height lies between {-HIGHEST:g} and {HIGHEST:g} mm.")
        if rows and len(row) != len(rows[0]):
            raise FileTrouble(f"{path.name}, line {number}: {len(row)} cells, where the first row has {len(rows[0])}.")
        rows.append(row)
    if len(rows) < 2 or len(rows[0]) < 2:
        raise FileTrouble(f"{path.name} is not a table of at least two rows and two columns.")
    return np.array(rows, dtype=np.float64)
