"""Proportions offered of what a piece is asked: whole numbers, thirds, the golden ratio; for the eye alone, and never forced."""

from __future__ import annotations

import math
from collections.abc import Mapping
from typing import Any

from nullah.core.document.calls import Call, Change, Option, taken
from nullah.core.document.names import prefix
from nullah.core.document.pieces import Designed
from nullah.core.document.project import Choice, Project
from nullah.core.pieces.kind import Kind, Proportion
from nullah.core.values.ask import BadAnswer
from nullah.core.values.measure import decimals, marked

GOLDEN = (math.sqrt(5) - 1) / 2  # of the longer: the shorter, which is to the rest as the longer to it
RATIOS = {
    "a third": 1 / 3,
    "1 to 2": 1 / 2,
    "3 to 5": 3 / 5,
    "the golden ratio": GOLDEN,
    "2 to 3": 2 / 3,
    "3 to 4": 3 / 4,
    "as long as each other": 1.0,
}
OFFERED = 2  # the nearest of them: with leaving it as it is three options, which are seen whole
NEAR = 0.3  # of the longer: how far from what was asked for an offer may lie
THERE = 0.004  # of the longer: so near to one, it stands in it
FINEST = 0.5  # mm: what is offered is a length one marks


def proportion_calls(piece: Designed, kind: Kind, choices: tuple[Choice, ...]) -> tuple[Call, ...]:
    """One call for each of the proportions that a kind names, unless it stands in one already; what is kept once is not asked again."""
    try:
        answers = kind.answers(piece.asked)
    except BadAnswer:
        return ()
    calls = (_call(piece, kind, proportion, answers, choices) for proportion in kind.proportions)
    return tuple(c for c in calls if c is not None)


def _call(
    piece: Designed, kind: Kind, proportion: Proportion, answers: Mapping[str, Any], choices: tuple[Choice, ...]
) -> Call | None:
    now, held = float(answers[proportion.ask]), float(answers[proportion.to])
    longer = max(now, held)
    here = min(now, held) / longer
    if any(abs(here - ratio) <= THERE for ratio in RATIOS.values()):
        return None
    nearest = sorted(RATIOS.items(), key=lambda item: abs(item[1] - here))[:OFFERED]
    options = [Option("keep", "as it is", (f"{marked(now)} to {marked(held)}: {decimals(here, 2)} of the longer",))]
    for words, ratio in nearest:
        exact = held * ratio if now <= held else held / ratio
        to = round(exact / FINEST) * FINEST
        if abs(here - ratio) > NEAR or not _serves(kind, answers, proportion.ask, to):
            continue
        differs = f"{marked(abs(to - now))} {'more' if to > now else 'less'}"
        said = f"{marked(to)} in place of {marked(now)}: {differs}"
        options.append(Option(words, words, (said,), _answered(piece.id, proportion.ask, to)))
    if len(options) == 1:
        return None
    call_id = f"{prefix(piece.id)}proportion {proportion.ask}"
    return Call(
        call_id,
        "piece",
        f"{proportion.words}: is it to stand in a proportion?",
        tuple(options),
        "keep",
        "what it is for has sized it; a proportion is for the eye alone",
        differ="Some size by whole numbers or the golden ratio from the first; some by what goes in and by the boards there are.",
        taken=taken(call_id, tuple(options), "", choices),
        taste=True,
    )


def _serves(kind: Kind, answers: Mapping[str, Any], name: str, to: float) -> bool:
    """Whether the piece can be designed with an answer in place of another."""
    ask = next(a for a in kind.asks if a.name == name)
    try:
        ask.held(to)
        if kind.design is not None:
            kind.design({**answers, name: to})
    except ValueError:
        return False
    return True


def _answered(piece_id: str, name: str, to: float) -> Change:
    """The change that answers a designed piece's ask otherwise."""

    def change(project: Project) -> Project:
        piece = next((p for p in project.pieces if p.id == piece_id), None)
        if not isinstance(piece, Designed):
            return project
        return project.with_design(piece.model_copy(update={"asked": {**piece.asked, name: to}}))

    return change
