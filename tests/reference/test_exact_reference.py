"""The exact search for what full cuts can free, against brute force, cases sawn up beforehand, and the checker of layouts."""

import random

import cases
import numpy as np
import pytest
from hypothesis import example, given
from hypothesis import strategies as st
from test_layout_reference import blank, fault, hold_to_account, stock
from test_planner_reference import most_by_force

from nullah.core.layout.compiled.exact import NO, NOT_FOUND, YES, fits
from nullah.core.layout.compiled.exchange import LOOK
from nullah.core.layout.compiled.fill import empty_room
from nullah.core.layout.compiled.freeing import free_parts
from nullah.core.layout.compiled.sets import empty_known, wood_of
from nullah.core.layout.encoding import COLUMNS, WASTE, decode, encode
from nullah.core.layout.model import Layout, Options
from nullah.core.layout.planner import Planner

TO_THE_END = 1 << 24  # looks: more than any of these sets takes


def test_where_all_is_fault_nothing_fits():
    board = stock("b", 1000.0, 200.0, 25.0, [fault("wane", 0.0, 0.0, 1000.0, 200.0)])
    parts = [blank(f"p{i}", 300.0, 80.0) for i in range(3)]
    assert not Asked(board, parts).fits([3])
    planner = Planner([board], parts, Options())
    for i in range(4):
        planner.advance(100, i / 4)
    assert planner.progress.placed == 0.0


class Asked:
    """One board, all of whose parts are asked for in sets; remembers what was found, as the search does."""

    def __init__(self, board, blanks, kerf=1.5):
        self.encoded = encode([board], blanks, Options(kerf, kerf))
        self.case, many = self.encoded.case, len(self.encoded.kinds)
        self.kinds = np.arange(many)
        self.known = empty_known(1 << 16, many)
        self.wood = wood_of(self.case, 0, self.kinds, many, self.known.hashes)
        self.piece = self.case.opens[0]

    def answer(self, count, looks=LOOK):
        """YES, NO, or NOT_FOUND in so many looks."""
        return fits(self.wood, self.piece, np.array(count), self.known, looks)[0]

    def fits(self, count):
        """Whether a set fits, looked at to the end."""
        answer = self.answer(count, TO_THE_END)
        assert answer != NOT_FOUND
        return answer == YES

    def layout(self, count):
        """The cuts that free a set that fits, as trees and the blanks without a place."""
        assert self.fits(count)
        room = empty_room(len(count), self.case.zones.size)
        record = np.zeros((400, COLUMNS))
        n, top = free_parts(self.wood, self.known, self.kinds, self.piece, record, 0, room.stack, 0, room.sawn)
        assert n > 0
        record[n : n + top, 0] = WASTE
        return decode(self.encoded, record[None], np.array([n]))


@pytest.mark.parametrize("seed", range(6))
def test_every_set_that_brute_force_can_cut_fits_and_no_other(seed):
    rng = random.Random(seed)
    board = stock("b", length=rng.uniform(400, 500), width=rng.uniform(100, 150))
    parts = [blank(f"p{i}", rng.uniform(90, 400), rng.uniform(30, 110)) for i in range(6)]
    asked = Asked(board, parts)
    order = [int(k.blanks[0][0].id[1:]) for k in asked.encoded.kinds]
    answers = set()
    for chosen in range(1, 64):
        some = [p for i, p in enumerate(parts) if chosen >> i & 1]
        whole = sum(p.length * p.width for p in some)
        can = most_by_force(board, some, 1.5) > whole - 1e-6
        assert asked.fits([chosen >> i & 1 for i in order]) == can
        answers.add(can)
    assert answers == {True, False}


@example(299687)
@given(st.integers(0, 2**32))
def test_property_what_was_sawn_up_round_faults_fits_and_its_cuts_can_be_sawn(seed):
    rng = random.Random(seed)
    boards, blanks = cases.sawn(1, rng.randint(2, 6), seed, rng.random() < 0.5, True)
    asked = Asked(boards[0], blanks)
    made, without = asked.layout(asked.encoded.counts)
    assert without == []
    hold_to_account(Layout("", made, ()), boards, blanks)


@example(4303291)
@given(st.integers(0, 2**32))
def test_property_sets_that_fit_round_any_faults_can_be_sawn_and_what_was_asked_before_changes_no_answer(seed):
    rng = random.Random(seed)
    boards, blanks = cases.sets(1, seed, lengths=cases.LONG, widths=cases.WIDE)
    if not blanks:
        return
    asked = Asked(boards[0], blanks)
    for _ in range(6):
        count = [rng.randint(0, min(2, c)) for c in asked.encoded.counts]
        if not 0 < sum(count) <= 6:
            continue
        quick = asked.answer(count)
        yes = asked.fits(count)
        # given up is not no: what was looked at to the end is the same whatever was asked before, and the quick answer is none other
        assert yes == Asked(boards[0], blanks).fits(count)
        assert quick in (NOT_FOUND, YES if yes else NO)
        if yes:
            made, without = asked.layout(count)
            gone = {b.id for b in without}
            hold_to_account(Layout("", made, tuple((g, "") for g in gone)), boards, blanks)
            assert len(blanks) - len(gone) == sum(count)
