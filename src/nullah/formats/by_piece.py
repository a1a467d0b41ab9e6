"""Files of versions 1 to 9, which kept the marks of all pieces in one list each under the project's names, as version 10 has them: each
with its piece, under the piece's own.

Here alone whose a mark is is read off its name, once. What belongs to a piece that is not there any more is let go.
"""

from __future__ import annotations

import re
from typing import Any

from nullah.core.document.names import bare, bare_blank, bare_deed

BY_PIECE = 10  # the first version that keeps what is marked of a piece with it

_NUMBERED = re.compile(r"([0-9]{1,6})\.")
_DEEDS = ("cut", "joint", "true", "resaw", "glue up", "dry", "level", "together", "finish", "use", "wood")
# calls of boards and of all pieces
_OF_ALL = ("natural", "end", "damp", "sap", "face", "saw", "load", "near", "planing", "layout", "short")
# calls named by the part they are about
_ABOUT = ("gone", "cut", "faces", "staves", "resaw", "thin", "arcs", "knots", "clash")


def by_piece(raw: dict[str, Any]) -> dict[str, Any]:
    """The content of an older file with what is marked of each piece kept with it."""
    pieces = raw.get("pieces", [raw.get("piece", {})])
    if not _are_rows(pieces) or not _is_sound(raw):
        return raw  # it is refused with a sentence
    ids = {str(p.get("id", "1")) for p in pieces}
    boards = {b.get("id") for b in _rows(raw, "boards")}
    marks: dict[str, dict[str, list[Any]]] = {one: {} for one in ids}

    def put(piece_id: str, kind: str, mark: object) -> None:
        if piece_id in marks:
            marks[piece_id].setdefault(kind, []).append(mark)

    for kind, field in (("measured", "part"), ("cut", "part"), ("joints_cut", "joint")):
        for row in _rows(raw, kind):
            mine = _owner(row.get(field), ids)
            put(mine, kind, _bared(row, field, mine))
    of_all: dict[str, list[Any]] = {"choices": [], "done": []}
    for row in _rows(raw, "choices"):
        mine, name = _call(row["call"], ids, boards) if isinstance(row.get("call"), str) else ("", "")
        if mine:
            put(mine, "choices", {**row, "call": name})
        else:
            of_all["choices"].append(row)
    for step in raw.get("done", []):
        what = next((d for d in _DEEDS if step == d or str(step).startswith(f"{d} ")), "")
        of = str(step).removeprefix(what).strip()
        mine = of if what in ("finish", "use") and of else _owner(of, ids)
        if what and of not in boards:
            put(mine, "done", {"what": what, "of": bare_deed(str(step), what, mine)})
        else:
            of_all["done"].append(step)
    guides = {str(g.get("piece", "1")): {k: v for k, v in g.items() if k != "piece"} for g in _rows(raw, "guides")}
    kept = [
        {**p, "marks": marks[one], **({"guide": guides[one]} if one in guides else {})}
        for p in pieces
        for one in [str(p.get("id", "1"))]
    ]
    gone = ("piece", "pieces", "measured", "cut", "joints_cut", "choices", "done", "guides")
    rest = {k: v for k, v in raw.items() if k not in gone}
    return {**rest, "pieces": kept, "choices_of_all": of_all["choices"], "done_of_all": of_all["done"]}


def _are_rows(rows: Any) -> bool:
    return isinstance(rows, list) and all(isinstance(r, dict) for r in rows)


def _is_sound(raw: dict[str, Any]) -> bool:
    """Whether marks can be told apart at all."""
    kinds = ("measured", "cut", "joints_cut", "choices", "guides", "boards")
    done, parts = raw.get("done", []), [r.get("parts", []) for r in _rows(raw, "joints_cut")]
    return (
        all(_are_rows(raw.get(kind, [])) for kind in kinds)
        and isinstance(done, list)
        and all(isinstance(d, str) for d in done)
        and all(isinstance(p, list) for p in parts)
        and all(isinstance(b.get("id", ""), str) for b in _rows(raw, "boards"))
    )


def _rows(raw: dict[str, Any], kind: str) -> list[dict[str, Any]]:
    rows = raw.get(kind, [])
    return rows if _are_rows(rows) else []


def _owner(name: object, ids: set[str]) -> str:
    """Whose part or joint a name was: the numbered piece's, else the first's."""
    found = _NUMBERED.match(str(name))
    return found[1] if found and found[1] in ids else "1"


def _bared(row: dict[str, Any], field: str, mine: str) -> dict[str, Any]:
    out = {**row, **({field: bare(row[field], mine)} if isinstance(row.get(field), str) else {})}
    if "parts" in row:
        out["parts"] = [bare(p, mine) if isinstance(p, str) else p for p in row["parts"]]
    if isinstance(row.get("places"), dict):
        out["places"] = {bare(str(p), mine): at for p, at in row["places"].items()}
    return out


def _call(name: str, ids: set[str], boards: set[Any]) -> tuple[str, str]:
    """Whose call it was, "" of no one piece's; and its own name for it."""
    what, _, about = name.partition(" ")
    if what in _OF_ALL or (what == "thin" and about in boards):
        return "", name
    if what not in _ABOUT:
        mine = _owner(name, ids)
        return mine, bare(name, mine)
    words = about.split(" ")
    named = next((w for w in words if _NUMBERED.match(w)), about)
    mine = _owner(named, ids)
    return mine, " ".join((what, *(bare_blank(w, mine) for w in words)))
