"""What the CSV tables we write have in common."""

from __future__ import annotations


def safe(cell: str) -> str:
    """A cell that no spreadsheet takes for a formula."""
    return f"'{cell}" if cell.lstrip()[:1] in ("=", "+", "-", "@", "\uff1d", "\uff0b", "\uff0d", "\uff20") else cell
