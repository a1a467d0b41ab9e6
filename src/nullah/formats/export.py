"""Everything that leaves for the shop, into one folder: cut list, shop sheet, full-size templates, pictures."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable
from contextlib import suppress
from pathlib import Path

from nullah.core.drawing.display_list import Drawing
from nullah.core.pictures import boards, full_size, piece, standing
from nullah.core.planning.plan import Plan
from nullah.core.shapes.solid import BadSolid
from nullah.core.values.measure import in_words, told
from nullah.formats import cut_list, dxf, parts_obj, reminders, shop_sheet, svg, template
from nullah.formats.trouble import FileTrouble, why
from nullah.formats.writing import same_file, write_all

OLDER = "older"  # the folder within that what an export before left goes to
Writer = Callable[[Plan, bool], bytes]  # of the plan, on letter paper or A4; nothing: there is nothing to write

# every file there is one of, by its name; pictures and full-size sheets there are as many of as the piece has
WRITERS: dict[str, Writer] = {
    "cut-list.csv": lambda plan, letter: cut_list.text(plan).encode(),
    "shop-sheet.pdf": shop_sheet.pdf,
    "full-size.pdf": template.pdf,
    "parts.obj": lambda plan, letter: _solids(plan),
    "reminders.ics": lambda plan, letter: reminders.ics(plan),
}
_DRAWN = re.compile(r"(?:piece|standing|apart|layout)\.svg|full-size-\d{2,3}\.(?:svg|dxf)")


def _ours(name: str) -> bool:
    """Whether an export gives a file that name."""
    return name in WRITERS or _DRAWN.fullmatch(name) is not None


def export(plan: Plan, folder: Path, letter: bool = False, project: Path | None = None) -> tuple[Path, ...]:
    """Write cut list, shop sheet, templates and pictures, all or none; the files written. What an export before left there and this one
    does not write over is put into the folder ``older`` within, so that it is not taken for this project's.

    Args:
        project: the file the plan was read from, which is not written over.

    Raises:
        FileTrouble: a part has no body, the folder cannot be made or written, or the project's own file would be written over.
    """
    made_here = not folder.exists()
    try:
        folder.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        raise why(error, folder, "save") from None
    try:
        return _export(plan, folder, letter, project)
    except FileTrouble:
        if made_here:
            with suppress(OSError):  # something else was put there meanwhile
                folder.rmdir()
        raise


def left_before(folder: Path, written: Iterable[Path]) -> tuple[Path, ...]:
    """The files of an export before that are in the folder still."""
    names = {p.name for p in written}
    with suppress(OSError):
        return tuple(sorted(p for p in folder.iterdir() if _ours(p.name) and p.name not in names and p.is_file()))
    return ()


def _put_aside(folder: Path, written: Iterable[Path]) -> None:
    """Put what an export before left into a folder within; what cannot be moved stays."""
    for old in left_before(folder, written):
        with suppress(OSError):
            (folder / OLDER).mkdir(exist_ok=True)
            old.rename(folder / OLDER / old.name)


def _export(plan: Plan, folder: Path, letter: bool, project: Path | None) -> tuple[Path, ...]:
    """What ``export`` does in a folder that is there."""
    laid = [(f"full-size-{n:02d}", sheet) for n, sheet in enumerate(full_size.sheets(plan), 1)]
    made = {
        **{name: data for name, writer in WRITERS.items() if (data := writer(plan, letter))},
        **{f"{name}.svg": _svg(plan, drawing, name) for name, drawing in _pictures(plan)},
        **{f"{name}.svg": _svg(plan, sheet.drawing, sheet.title, True) for name, sheet in laid},
        **{f"{name}.dxf": _dxf(plan, sheet) for name, sheet in laid},
    }
    if project is not None:
        for name in made:
            if same_file(folder / name, project):
                raise FileTrouble(f"Could not save {name}: that is the project itself. Nothing was changed.")
    written = tuple(folder / name for name in made)
    write_all(dict(zip(written, made.values(), strict=True)))
    _put_aside(folder, written)
    return written


def _solids(plan: Plan) -> bytes:
    try:
        return parts_obj.text(plan).encode()
    except BadSolid as error:
        raise FileTrouble(f"Could not make the parts' solids: {error} Nothing was changed.") from None


def _pictures(plan: Plan) -> list[tuple[str, Drawing]]:
    out = []
    for name, drawing in (
        ("piece", piece.of(plan)),
        ("standing", standing.of(plan)),
        ("apart", standing.of(plan, 0.6)),
    ):
        if drawing.items:
            out.append((name, drawing))
    if plan.breakdown.layout is not None and plan.project.boards:
        out.append(("layout", boards.laid_out(plan.project.boards, plan.breakdown, name=plan.piece.written)))
    return out


def _svg(plan: Plan, drawing: Drawing, name: str, at_full_size: bool = False) -> bytes:
    p = plan.project
    return svg.text(
        drawing,
        lambda mm: in_words(mm, p.units, p.denominator),
        lambda s: told(s, p.units, p.denominator),
        name=f"{p.name}: {name}",
        full_size=at_full_size,
    ).encode()


def _dxf(plan: Plan, sheet: full_size.Sheet) -> bytes:
    p = plan.project
    return dxf.text(sheet.drawing, lambda s: told(s, p.units, p.denominator), f"{p.name}: {sheet.title}").encode()
