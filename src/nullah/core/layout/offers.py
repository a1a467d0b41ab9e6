"""Several ways of sawing the same boards, searched side by side, and what each comes to: the alternatives worth looking at.

``Offers`` is stepped like a ``Planner``, one way after the other by turns. What it shows is sorted by merit: parts without a place,
groups that had to be split, then sawing, boards opened and what is left over, weighed as ``Options`` says.
"""

from __future__ import annotations

from collections.abc import Sequence

from nullah.core.document.project import BoardLayout
from nullah.core.layout.bound import Bound
from nullah.core.layout.merit import Merit, apart, merit
from nullah.core.layout.model import Blank, Layout, Options, Stock, leaves
from nullah.core.layout.planner import Planner, Progress
from nullah.core.layout.recut import SPARE, not_again, spare_of, with_spares_left
from nullah.core.layout.search import search
from nullah.core.values.frozen import replace

FEWEST_BOARDS = 3.0  # what opening a board weighs where as few as can be are wanted
SPLIT_AFTER = 0.25  # of the work, after which a group in order that finds no place is tried in pieces


class Offers:
    """The ways searched side by side. Arguments as for ``Planner``."""

    def __init__(
        self,
        stock: Sequence[Stock],
        blanks: Sequence[Blank],
        options: Options,
        seed: int = 1,
        begun: Sequence[BoardLayout] = (),
        waits: bool = True,
    ) -> None:
        self.stock, self.blanks, self.options, self.seed, self.begun = stock, blanks, options, seed, begun
        self.waits = waits
        self.ways: list[tuple[str, Planner]] = []
        self._add("crosscut first", replace(options, first="crosscut"))
        self._add("rip first", replace(options, first="rip"))
        if len(stock) > 1:
            self._add("fewest boards", replace(options, opening=FEWEST_BOARDS))
        self._following = [planner for _, planner in self.ways[1:]]
        self._at_once = search(stock, blanks, options, begun)
        self._turn = 0
        self._wide = self._split = False

    def _add(self, name: str, options: Options, blanks: Sequence[Blank] | None = None) -> None:
        planner = Planner(self.stock, blanks or self.blanks, options, self.seed, self.begun, self.waits)
        self.ways.append((name, planner))

    def advance(self, rounds: int, share: float) -> Progress:
        """So many rounds of the way whose turn it is; ``share`` of the work is done by now. How far the best has come.

        Until the first has found a place for everything, those that differ from it only in what is saved wait for it.
        """
        lead = self.ways[0][1]
        if self._following and not lead.progress.unplaced:
            for planner in self._following:
                planner.begin_from(lead)
            self._following = []
        active = [p for _, p in self.ways if not any(p is one for one in self._following)]
        self._turn = (self._turn + 1) % len(active)
        active[self._turn].advance(rounds, share)
        if share > SPLIT_AFTER:
            self._widen()
        return self.progress

    @property
    def _best(self) -> Planner:
        """The planner that has come furthest, of those that lay out these blanks and nothing beside them."""
        return max((p for _, p in self.ways if len(p.blanks) == len(self.blanks)), key=lambda p: p.progress.placed)

    @property
    def progress(self) -> Progress:
        """How far the best has come, with the rounds of all."""
        return replace(self._best.progress, rounds=sum(p.rounds for _, p in self.ways))

    def _widen(self) -> None:
        """Ways that are worth a try once something is known: a group split, a board kept whole."""
        best = self._best
        if not self._wide and not best.progress.unplaced:
            self._wide = True
            self.widen_from(best.layout())
        if (
            best.progress.unplaced
            and not self._split
            and self.options.keep_groups
            and any(b.in_order for b in self.blanks)
        ):
            self._split = True
            self._add("sides not in sequence", replace(self.options, keep_groups=False))

    def widen_from(self, best: Layout) -> None:
        """Ways beside a layout of everything: mates from the board with most of them; a second of the largest part that it would
        not give again; its least used board kept whole."""
        spread = apart(best, self.blanks)
        home = {g: frozenset({max(on, key=lambda b: (on[b], b))}) for g, on in spread.items()}
        if home:
            blanks = [replace(b, boards=home[b.group]) if b.group in home else b for b in self.blanks]
            self._add("mates from one board", self.options, blanks)
        short = not_again(best, self.stock, self.blanks)
        if short:
            self._add(f"a second {short[0].id} left over", self.options, [*self.blanks, spare_of(short[0])])
        idle = self._least_used(best)
        if idle is not None:
            self._add(f"{idle.name} kept whole", replace(self.options, kept=self.options.kept | {idle.id}))

    def _least_used(self, best: Layout) -> Stock | None:
        """The board with the least of parts on it, where there are others and nothing is pinned on it."""
        pinned = {b.board for b in self.begun}
        used = {
            b.board: sum(n.length * n.width for n in leaves(b.root) if n.use == "part")
            for b in best.boards
            if b.board not in pinned
        }
        if len(used) < 2:
            return None
        least = min(used, key=lambda i: used[i])
        return next(s for s in self.stock if s.id == least)

    @property
    def done(self) -> bool:
        """Whether there is nothing to search."""
        return self.ways[0][1].done

    def bound(self) -> Bound:
        """How much could have a place at the most, whichever way."""
        return self.ways[0][1].bound()

    def layouts(self) -> tuple[Layout, ...]:
        """What is worth showing, best first: each way's best, but of those alike only one, and none that leaves out more."""
        found = [
            (merit(one, self.stock, self.blanks, self.options), replace(one, name=name)) for name, one in self._found()
        ]
        found.sort(key=lambda f: (f[0].without, f[0].split, f[0].cost))
        least = found[0][0]
        shown: list[tuple[Merit, Layout]] = []
        for m, one in found:
            poorer = m.without > least.without + 1.0 or (m.split > least.split and m.without >= least.without)
            like = any(one.name == k.name or (abs(m.cost - n.cost) < 1.0 and m.without == n.without) for n, k in shown)
            if not poorer and not like:
                shown.append((m, one))
        return tuple(one for _, one in shown)

    def _found(self) -> list[tuple[str, Layout]]:
        out = [(one.name, one) for one in self._at_once]
        for name, planner in self.ways:
            one = planner.layout()
            if not any(part.startswith(SPARE) for part, _ in one.unplaced):
                out.append((name, with_spares_left(one, self.options.keep_offcut)))
        return out
