"""The inks a drawing may name, on paper and on the window's dark ground. ``colour`` is where a name becomes a colour.

Wood has inks of its own by species: ``wood white ash`` is a face, ``end white ash`` its end grain, ``figure white ash`` the
lines on either, ``sap white ash`` its sapwood: freshly planed heartwood, paled (common knowledge, no source). Tints are pale enough
for words to stand on; the species is always named too.
"""

from __future__ import annotations

from nullah.core.wood.species import ALL, own

PAPER: dict[str, str] = {
    "ground": "#f6f1e7",  # warm paper
    "panel": "#fbf8f1",
    "ink": "#26323c",  # slate
    "quiet": "#545e67",
    "faint": "#a9a496",
    "outline": "#3a464f",
    "line": "#d8cfbd",
    "wood": "#ead9b8",
    "wood dark": "#cfb58a",
    "end grain": "#d9bf93",
    "grain": "#c9ae80",
    "offcut": "#dfe3d2",
    "waste": "#cdc6b8",
    "kerf": "#26323c",
    "computed": "#1c6487",  # water: what is computed and live
    "computed wash": "#cfe3ea",
    "decision": "#9a4122",  # clay: what needs a decision
    "decision wash": "#f3ddd1",
    "settled": "#4c6b35",  # moss: settled
    "settled wash": "#dde6d0",
    "dimension": "#3a464f",
    "fault": "#6b3a22",
    "lit": "#09709f",
}
DARK: dict[str, str] = {
    "ground": "#1f2428",
    "panel": "#272e33",
    "ink": "#ece6d8",
    "quiet": "#b3b2a8",
    "faint": "#75766f",
    "outline": "#d3ccbb",
    "line": "#424b51",
    "wood": "#6a573b",
    "wood dark": "#8a7048",
    "end grain": "#7d6440",
    "grain": "#8d7650",
    "offcut": "#4a5442",
    "waste": "#4b4943",
    "kerf": "#f2ead8",
    "computed": "#79c3e2",
    "computed wash": "#24424f",
    "decision": "#f0a384",
    "decision wash": "#54342a",
    "settled": "#a9c98a",
    "settled wash": "#35442a",
    "dimension": "#d3ccbb",
    "fault": "#e8b796",
    "lit": "#a8def5",
}
HEAT = ("#f3ead6", "#f3d9a9", "#ecb87b", "#dd8f57", "#c0633b", "#8f3f25")  # least to most that comes off


def colour(ink: str, dark: bool = False) -> str:
    """The colour of an ink as ``#rrggbb``; of one that is not known, that of ``ink`` itself."""
    inks = DARK if dark else PAPER
    if ink in inks:
        return inks[ink]
    if ink.startswith("heat "):
        value = HEAT[int(ink[5:])]
        return mixed(value, "#141414", 0.52 - 0.02 * int(ink[5:])) if dark else value
    kind, _, name = ink.partition(" ")
    if kind in ("wood", "end", "figure", "sap") and (wood := ALL.get(name) or own(name)) is not None:
        face, line = wood.tints
        value = {"wood": face, "figure": line, "end": mixed(face, line, 0.26), "sap": mixed(face, "#ffffff", 0.55)}[
            kind
        ]
        return mixed(value, "#1b1611", 0.32 if kind == "figure" else 0.7) if dark else value
    return inks["ink"]


def mixed(one: str, other: str, share: float) -> str:
    """Two colours mixed, ``share`` (0 to 1) of the other in the one."""
    parts = [(int(one[i : i + 2], 16), int(other[i : i + 2], 16)) for i in (1, 3, 5)]
    return "#" + "".join(f"{round(a + (b - a) * share):02x}" for a, b in parts)
