"""The maker's own rates: what timed saw cuts say against the common ones, so that sawing weighs in a layout what it costs here."""

from __future__ import annotations

from collections.abc import Sequence

from nullah.core.document.project import LogEntry
from nullah.core.layout.saw import SawCut, SawRates

SETTING_UP = 1.0  # minutes a cut takes beside the sawing: marking, holding (common practice, no source)
FEWEST = 3  # timed cuts of a kind before they say anything
LEAST, MOST = 0.2, 5.0  # rates further from the common ones are a timer left running


def work(log: Sequence[LogEntry], cuts: Sequence[SawCut]) -> SawRates:
    """The station: of each kind, minutes logged for the cuts of the accepted layout against what is common for them."""
    took: dict[str, float] = {}
    for entry in log:
        if entry.kind == "time" and entry.step.startswith("saw "):
            took[entry.step] = took.get(entry.step, 0.0) + entry.minutes
    rates, timed = [], []
    for kind in ("crosscut", "rip"):
        mine = [c for c in cuts if c.kind == kind and took.get(c.name, 0.0) > 0]
        common = sum(SETTING_UP + c.minutes for c in mine)
        told = len(mine) >= FEWEST and common > 0
        rate = sum(took[c.name] for c in mine) / common if told else 1.0
        rates.append(min(max(rate, LEAST), MOST))
        timed.append(len(mine) if told else 0)
    return SawRates(rates[0], rates[1], (timed[0], timed[1]))
