"""Columns of figures from CSV: decimal points, one header line or none, what each column is known beforehand."""

from __future__ import annotations

import math
from pathlib import Path

from nullah.formats.trouble import FileTrouble
from nullah.formats.writing import read_bounded

LARGEST = 64 * 1024  # bytes
MOST = 1e6  # of any figure


def read(path: Path, columns: tuple[str, ...]) -> tuple[tuple[float, ...], ...]:
    """The rows in the order of the file, a figure for each of ``columns``; empty lines are passed over.

    Raises:
        FileTrouble: it cannot be read, or a line has not just those figures, all finite; one sentence with the line.
    """
    try:
        lines = read_bounded(path, LARGEST).decode("utf-8-sig").splitlines()
    except UnicodeDecodeError:
        raise FileTrouble(f"{path.name} is not text.") from None
    rows: list[tuple[float, ...]] = []
    for number, line in enumerate(lines, 1):
        cells = [cell.strip() for cell in line.split(",")]
        if not any(cells) or (not rows and cells[0].lower() == columns[0]):
            continue
        try:
            row = tuple(map(float, cells))
        except ValueError:
            row = ()
        if len(row) != len(columns) or not all(map(math.isfinite, row)):
            raise FileTrouble(f"{path.name}, line {number}: a line is {','.join(columns)}, in numbers.")
        if max(map(abs, row)) > MOST:
            raise FileTrouble(f"{path.name}, line {number}: no figure is over {MOST:g}.")
        rows.append(row)
    return tuple(rows)
