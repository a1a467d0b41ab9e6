"""The inks a drawing may name, and what they are on paper: light ground. The window's dark theme has its own."""

from __future__ import annotations

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
    "decision": "#a4492a",  # clay: what needs a decision
    "decision wash": "#f3ddd1",
    "settled": "#4c6b35",  # moss: settled
    "settled wash": "#dde6d0",
    "dimension": "#3a464f",
    "fault": "#6b3a22",
    "lit": "#0b7fb3",
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
