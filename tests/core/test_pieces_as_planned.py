"""Projects of every kind, saved as version 9 with their marks, come to what they came to then."""

import os

import pieces_as_planned
import pytest

from nullah.formats import project_file

ALL = bool(os.environ.get("NULLAH_SOAK"))
LOTS = 10
# the bottom of a box that was not the project's first took the wood of the first's where it lay on no board of its own
MENDED = {266: {"parts", "cut list", "steps"}}


@pytest.mark.parametrize("lot", range(LOTS))
def test_soak_projects_are_planned_as_they_were(lot):
    saved = pieces_as_planned.read()
    assert len(saved) == 300
    for n in range(lot, len(saved), LOTS if ALL else 3 * LOTS):
        text, was = saved[n]
        now = pieces_as_planned.values_of(project_file.loads(text))
        assert {name for name in was if now[name] != was[name]} == MENDED.get(n, set()), n
