"""Everything that has a name on the screen, and how one gets there: boards, parts, calls, steps."""

from __future__ import annotations

from functools import partial
from typing import TYPE_CHECKING

from nullah.gui.actions import Action

if TYPE_CHECKING:
    from nullah.gui.window import Window


def places(window: Window) -> list[Action]:
    """What can be turned to by its name, as things to do."""
    s, told = window.session, window.session.told
    out = [
        Action(f"board {b.id}", f"{b.name}, {b.species}", (), "Board", partial(window.show_board, b.id))
        for b in s.project.boards
    ]
    out += [Action(f"part {p.id}", p.name, (), "Part", partial(window.show_part, p.id)) for p in s.plan.piece.parts]
    out += [
        Action(f"call {c.id}", told(c.question), (), "Call", partial(window.show_call, c.id))
        for c in s.plan.open_calls()
    ]
    out += [
        Action(f"step {x.id}", f"{n}: {told(x.title)}", (), "Step", partial(window.show_step, x.id))
        for n, x in enumerate(s.plan.bench.steps, 1)
    ]
    return out
