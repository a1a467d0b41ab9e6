"""The planner: a search that always has a layout to show, gets better while one waits, and says how much better is possible.

A ``Planner`` is stepped: ``advance`` does so many rounds at a heat that falls with the share of the work that is done. It
reads no clock; the same boards, blanks, options, seed and steps give the same layout. First everything is to find a place;
once all has, boards opened, sawing and what is left over are made better, and a place is never given up again.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

import numpy as np

from nullah.core.document.project import BoardLayout
from nullah.core.layout.bound import Bound, bound
from nullah.core.layout.encoding import Encoded, decode, encode, no_records
from nullah.core.layout.fillings import AT_ONCE, Beside, Fillings, laid
from nullah.core.layout.model import Blank, Layout, Options, Stock
from nullah.core.layout.search import why_not
from nullah.core.values.frozen import frozen

HEAT = (0.2, 0.02)  # of a mean part's area: at the start, and at the end
PLACING, SAVING = np.array([1.0, 0.4, 0.0]), np.array([10.0, 0.02, 1.0])  # weights of area, scattered waste, cost
NOISE, JOINED_WASTE, PEEL = 1.0, 0.01, 0.04
HOTTEST = 0.5  # of a mean part's area, for exchanges by exact search; less where there are more parts
EXCHANGE_HEAT, FEW_EXCHANGE_HEAT = 4.0, 20.0  # of the same, over the number of parts; where parts are few
COLD = 0.3  # what that comes down to in the end, where parts are few
EXCHANGED, FEW_EXCHANGED = 0.3, 0.5  # share of the work that goes into them; the same where parts are few
FEW_PARTS = 150  # at the most: fillings are put together in the thread beside; with more a second search goes on there
BEGUN = 0.05  # share of the work after which exchanges begin, and not before boards are no more filled to the last
LOOKS_A_ROUND = 200  # about how many ways of parting the exact search looks at in the time of a round
SLOTS = 1 << 20  # for what the exact search has found
SLICE = 20  # rounds between looks at how boards are filled, where fillings are put together
DUE = 540  # rounds, for each board looked at beside, after which what was found is due
SAME_AREA = 1e-3  # mm2: areas that have a place and differ by less are as much
STRAIGHT = {"crosscut": 0.35, "rip": -0.35}  # how the kind of cut that is to come first is leant to


@frozen
class Progress:
    """How far a search has come: share of the area asked for that has a place, parts without one, rounds done."""

    placed: float
    unplaced: int
    rounds: int


class Planner:
    """One search, stepped from outside.

    Args:
        stock: the boards. blanks: the parts in the rough. options: saws and preferences.
        seed: a search with another seed takes another way. begun: boards with parts that stay where they are.
        waits: whether what is done in a thread beside it is taken after so many rounds, and not as soon as it is there; then the
            same steps give the same layout on any machine.
        paired: whether a second search goes on in that thread where there are too many parts for anything else, the better counting.
    """

    def __init__(
        self,
        stock: Sequence[Stock],
        blanks: Sequence[Blank],
        options: Options,
        seed: int = 1,
        begun: Sequence[BoardLayout] = (),
        waits: bool = True,
        paired: bool = True,
    ) -> None:
        self.blanks = tuple(blanks)
        self.encoded: Encoded = encode(stock, blanks, options, begun)
        case = self.encoded.case
        self.state = np.array([(seed * 0x9E3779B97F4A7C15 + 0x2545F4914F6CDD1D) % 2**64 or 1], dtype=np.uint64)
        rows = _rows_needed(self.encoded)
        self.now: tuple[Any, ...] = no_records(case, rows, self.encoded.counts)
        self.best: tuple[Any, ...] = no_records(case, rows, self.encoded.counts)
        self.rounds = 0
        self.looks = (0, 0)  # for boards filled to the last, and how many were found
        self.saving = False
        self._turned_at = 0.0
        self._beside = Beside(waits)
        self._fillings: Fillings | None = None
        self._seed = seed
        self._other: Planner | None = None  # the second search
        self._pairs = paired and len(self.blanks) > FEW_PARTS and case.boards > 1
        self._known: Any = None  # what the exact search has found
        self._owed = 0  # ways of parting that exchanges are still to look at
        self._weighed_for: Any = None  # the weights that the boards' values are of

    def advance(self, rounds: int, share: float) -> Progress:
        """Do so many rounds; ``share`` (0 to 1) of the whole work is done by now, which is how hot it still is."""
        if self.done:
            return self.progress
        other = self._beginning_other()
        if other is not None:
            self._beside.begin(lambda: other.advance(rounds, share), 0)
        self._advance(rounds, share)
        if other is not None:
            self._beside.wait()
            if not other.best[3].sum() and self.best[3].sum():
                self.begin_from(other)
        return self.progress

    def _beginning_other(self) -> Planner | None:
        """The second search, begun where it is time; none once all has a place."""
        if not self._pairs or not self.best[3].sum():
            self._other = None
        elif self._other is None:
            e = self.encoded
            self._other = Planner(e.stock, self.blanks, e.options, self._seed + 1, tuple(e.begun.values()), True, False)
        return self._other

    def _advance(self, rounds: int, share: float) -> None:
        """What ``advance`` does, in this search alone."""
        from nullah.core.layout.compiled.records import weigh

        if not self.saving and self.best[3].sum() == 0:
            self.saving, self._turned_at = True, share
            _copy(self.best, self.now)
        began = self._turned_at if self.saving else 0.0
        part = min(1.0, max(0.0, (share - began) / max(1e-9, 1.0 - began)))
        heat = self.encoded.case.mean_area * HEAT[0] * (HEAT[1] / HEAT[0]) ** part
        aim = SAVING if self.saving else PLACING
        if aim is not self._weighed_for:
            self._weighed_for = aim
            for _, _, figures, _ in (self.now, self.best):
                weigh(self.encoded.case, figures, aim)
        in_vain = self.looks[0] > 50 * (1 + self.looks[1])
        if not self.saving and share > BEGUN and in_vain:
            rounds = self._helped(rounds, aim, part)
        lean = STRAIGHT[self.encoded.options.first] if self.saving else 0.0
        peel = 0.0 if self.saving else PEEL / (20.0 if in_vain else 1.0)
        self._search(rounds, heat, aim, np.array([NOISE, lean, JOINED_WASTE, peel]))

    def _search(self, rounds: int, heat: float, aim: Any, style: Any) -> None:
        """Empty and fill again so many times, and remember how boards are filled now and then where that is of use."""
        from nullah.core.layout.compiled.rounds import rounds as search  # late, as Numba takes half a second

        fillings = None if self.saving else self._fillings
        while rounds > 0:
            now = min(rounds, SLICE) if fillings else rounds
            done, tries, hits = search(self.encoded.case, self.now, self.best, self.state, now, heat, aim, style)
            self.rounds += int(done)
            self.looks = (self.looks[0] + int(tries), self.looks[1] + int(hits))
            if fillings:
                fillings.note(self.now)
            rounds -= now

    def _helped(self, rounds: int, aim: Any, part: float) -> int:
        """Put fillings together and exchange parts; returns the rounds that are left for filling again."""
        few = len(self.blanks) <= FEW_PARTS
        if few and self.encoded.case.boards > 1:
            self._put_together(aim)
        many, heat = len(self.blanks), self.encoded.case.mean_area
        heat *= min(HOTTEST, FEW_EXCHANGE_HEAT / many) * COLD**part if few else EXCHANGE_HEAT / many
        by_search = int(rounds * (1 - (FEW_EXCHANGED if few else EXCHANGED))) + 1
        self._exchange((rounds - by_search) * LOOKS_A_ROUND, aim, heat)
        self.rounds += rounds - by_search
        return by_search

    @property
    def fillings_known(self) -> int:
        """How many fillings of single boards are remembered to be put together."""
        return len(self._fillings.known) if self._fillings else 0

    def begin_from(self, other: Planner) -> None:
        """Go on from the best of another search of the same boards and blanks."""
        for ours in (self.now, self.best):
            _copy(other.best, ours)
        self._weighed_for = None

    def _put_together(self, aim: Any) -> None:
        """Take up what was done beside, fillings found or one chosen for each board, and begin what is next."""
        case, counts = self.encoded.case, self.encoded.counts
        if self._fillings is None:
            self._fillings = Fillings(case, counts, aim, self._seed, self.now[0].shape[1])
        look = self._beside.result(self.rounds)
        if look is not None:
            whole = laid(case, aim, self.now[0].shape[1], counts, look.chosen)
            if _is_better(whole, self.best):
                for ours in (self.now, self.best):
                    _copy(whole, ours)
            self._fillings.add(look.found)
            self._fillings.keep(look.kept)
        if self._beside.idle:
            known, fillings = list(self._fillings.known.values()), self._fillings
            self._beside.begin(lambda: fillings.look(known), self.rounds + DUE * min(case.boards, AT_ONCE))

    def _exchange(self, looks: int, aim: Any, heat: float) -> None:
        """Exchange parts among pieces until so much was looked at; what one exchange looks at beyond is owed by the next."""
        from nullah.core.layout.compiled.exchange import exchanges
        from nullah.core.layout.compiled.sets import empty_known

        case = self.encoded.case
        if self._known is None:
            self._known = empty_known(SLOTS, len(self.encoded.kinds))
        self._owed += looks
        if self._owed > 0:
            beyond = exchanges(case, self.now, self.best, self.state, self._owed, heat, aim, self._known)
            self._owed = -int(beyond)

    @property
    def done(self) -> bool:
        """Whether nothing can be gained any more: there is nothing to lay, or no board to lay it on."""
        return self.encoded.counts.size == 0 or self.encoded.case.boards == 0

    @property
    def _ahead(self) -> Planner:
        """This search, or the second where more has a place there."""
        if self._other is None:
            return self
        areas = self.encoded.case.sizes[:, 2]
        return min(self, self._other, key=lambda one: float((one.best[3] * areas).sum()))

    @property
    def progress(self) -> Progress:
        """How far it has come."""
        demand = self.encoded.demand
        left = self._ahead.best[3]
        area = float((left * self.encoded.case.sizes[:, 2]).sum()) if left.size else 0.0
        return Progress(1.0 - area / demand if demand else 1.0, int(left.sum()), self.rounds)

    def layout(self) -> Layout:
        """The best layout so far."""
        boards, without = decode(self.encoded, *self._ahead.best[:2])
        reasons = tuple((b.id, why_not(self.encoded.stock, b)) for b in without)
        split = () if self.encoded.options.keep_groups else tuple(sorted({b.group for b in self.blanks if b.in_order}))
        return Layout(f"{self.encoded.options.first} first", boards, reasons, split)

    def bound(self) -> Bound:
        """How much could have a place at the most."""
        return bound(self.encoded)


def paced(rounds: int, took: float, turn: float) -> int:
    """How many rounds to ask for next, where so many took ``took`` seconds and a look at the clock is wanted each ``turn``."""
    return max(4, min(3 * rounds, int(rounds * turn / max(took, 1e-5))))


def _is_better(one: tuple[Any, ...], other: tuple[Any, ...]) -> bool:
    """Whether one search's records place more than another's, or as much and are worth more."""
    (area, value), (its_area, its_value) = ((f[:, 0].sum(), f[:, 2].sum()) for f in (one[2], other[2]))
    return bool(area > its_area + SAME_AREA or (area > its_area - SAME_AREA and value > its_value + 1.0))


def _copy(theirs: tuple[Any, ...], ours: tuple[Any, ...]) -> None:
    """Write one search's records, rows, figures and parts left over another's."""
    for ours_of, theirs_of in zip(ours, theirs, strict=True):
        ours_of[:] = theirs_of


def _rows_needed(encoded: Encoded) -> int:
    """Rows of a record: six for each part that a board could hold at the most, since what is left beside it has rows too."""
    case = encoded.case
    if case.boards == 0 or case.sizes.size == 0:
        return 1
    least = float((case.sizes[:, 0] * case.sizes[:, 1]).min())
    return 6 * int(min(int(encoded.counts.sum()), case.capacity.max() / least)) + 48
