"""Everything that has a name on the screen, and how one gets there: boards, parts, calls, steps."""

from __future__ import annotations

from typing import TYPE_CHECKING

from nullah.gui.actions import Action

if TYPE_CHECKING:
    from nullah.gui.window import Window


def places(window: Window) -> list[Action]:
    """What can be turned to by its name, as things to do."""
    s, told = window.session, window.session.told
    out = [
        Action(f"board {b.id}", f"{b.name}, {b.species}", (), "Board", lambda i=b.id: window.show_board(i))
        for b in s.project.boards
    ]
    out += [Action(f"part {p.id}", p.name, (), "Part", lambda i=p.id: window.show_part(i)) for p in s.plan.piece.parts]
    out += [
        Action(f"call {c.id}", told(c.question), (), "Call", lambda i=c.id: window.show_call(i))
        for c in s.plan.open_calls()
    ]
    out += [
        Action(f"step {x.id}", f"{n}: {told(x.title)}", (), "Step", lambda i=x.id: window.show_step(i))
        for n, x in enumerate(s.plan.bench.steps, 1)
    ]
    return out
