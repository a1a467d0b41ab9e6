"""Everything that leaves for the shop, into one folder: cut list as CSV, shop sheet as PDF."""

from __future__ import annotations

from pathlib import Path

from nullah.core.plan import Plan
from nullah.formats import cut_list, shop_sheet
from nullah.formats.project_file import write_whole
from nullah.formats.trouble import why


def export(plan: Plan, folder: Path, letter: bool = False) -> tuple[Path, ...]:
    """Write cut list and shop sheet; the files written.

    Raises:
        FileTrouble: the folder cannot be made or written.
    """
    try:
        folder.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        raise why(error, folder, "save") from None
    cuts, sheet = folder / "cut-list.csv", folder / "shop-sheet.pdf"
    write_whole(cuts, cut_list.text(plan).encode())
    write_whole(sheet, shop_sheet.pdf(plan, letter))
    return (cuts, sheet)
