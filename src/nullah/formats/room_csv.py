"""A room's year from CSV: month (1 to 12), temperature in deg C, relative humidity in percent; a header line or none."""

from __future__ import annotations

import math
from pathlib import Path

from nullah.core.wood.room import Month
from nullah.formats.trouble import FileTrouble
from nullah.formats.writing import read_bounded

LARGEST = 64 * 1024  # bytes


def read(path: Path) -> tuple[Month, ...]:
    """The months in the order of the file.

    Raises:
        FileTrouble: it cannot be read, or a line is no month; one sentence with the line.
    """
    try:
        lines = read_bounded(path, LARGEST).decode("utf-8-sig").splitlines()
    except UnicodeDecodeError:
        raise FileTrouble(f"{path.name} is not text.") from None
    months: list[Month] = []
    for number, line in enumerate(lines, 1):
        cells = [cell.strip() for cell in line.split(",")]
        if not any(cells) or (not months and cells[0].lower() == "month"):
            continue
        try:
            month, celsius, humidity = map(float, cells)
        except ValueError:
            raise FileTrouble(f"{path.name}, line {number}: a line is month,celsius,humidity, in numbers.") from None
        if not all(map(math.isfinite, (month, celsius, humidity))) or month != int(month):
            raise FileTrouble(f"{path.name}, line {number}: a month is a whole number, and its air is finite.")
        months.append(Month(int(month), celsius, humidity))
    return tuple(months)
