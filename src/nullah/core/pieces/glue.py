"""The clock of a glue-up: how long glue stays open, how long coating and closing take, and a slower glue as what may be chosen."""

from __future__ import annotations

from nullah.core.document.calls import Option
from nullah.core.document.project import Project

# minutes the label usually gives: least, most (common practice; the label governs)
OPEN_TIME = {"PVA": (10.0, 10.0), "hot hide": (1.0, 3.0), "liquid hide": (15.0, 30.0), "epoxy": (30.0, 60.0)}
COATING = 0.12  # minutes to coat one cheek of a tail or pin with a small brush (common practice; the log replaces it)
CLOSING = 1.5  # minutes to close and clamp one corner


def minutes_words(value: float) -> str:
    """Minutes as they are said: whole from ten on, else with a tenth."""
    return f"{value:.0f}" if value >= 10 else f"{value:.1f}".removesuffix(".0")


def other_glue(glue: str, minutes: float) -> Option:
    """A glue that stays open long enough for two stages, or for one."""
    least = OPEN_TIME[glue][0]
    whole = minutes <= least

    def change(project: Project) -> Project:
        return project.model_copy(update={"kit": project.kit.model_copy(update={"glue": glue})})

    said = f"{minutes_words(minutes if whole else minutes / 2)} min{'' if whole else ' each'}, inside {minutes_words(least)}"
    return Option(f"glue {glue}", f"take {glue}, {'in one go' if whole else 'in two stages'}", (said,), change)
