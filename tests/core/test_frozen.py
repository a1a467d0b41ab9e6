"""Frozen classes: what the standard decorator makes of the same fields is the outside check."""

import copy
import pickle
from dataclasses import FrozenInstanceError, dataclass, field, fields, replace

import pytest

from nullah.core.values.frozen import frozen
from nullah.core.values.frozen import replace as frozen_replace


class Fields:
    """Names a careless constructor would trip over, defaults made anew each time, fields left out of comparing or telling."""

    held: int
    _held: str = "own"
    known: tuple[int, ...] = ()
    made: list[int] = field(default_factory=list, compare=False)
    quiet: float = field(default=1.5, repr=False)

    def __post_init__(self):
        object.__setattr__(self, "after", self.held + 1)


def both(name):
    body = {k: v for k, v in vars(Fields).items() if k not in ("__dict__", "__weakref__")}
    return (type(name, (), dict(body)) for _ in range(2))


Ours, Theirs = (
    deco(cls) for deco, cls in zip((frozen, dataclass(frozen=True)), both("Ours"), strict=True)
)  # same body, one name
Ours.__module__ = __name__


@pytest.mark.parametrize("words", [{"held": 1}, {"held": 2, "_held": "x", "known": (3,), "made": [4], "quiet": 0.0}])
def test_it_is_what_the_standard_decorator_makes(words):
    ours, theirs = Ours(**words), Theirs(**words)
    assert repr(ours) == repr(theirs)
    assert vars(ours) == vars(theirs)
    assert hash(ours) == hash(theirs)
    assert [f.name for f in fields(Ours)] == [f.name for f in fields(Theirs)]
    for changed in ({"held": 9}, {"made": [7]}, {"quiet": 8.0}):
        assert (replace(ours, **changed) == ours) is (replace(theirs, **changed) == theirs)
    assert (ours == theirs) is (theirs == ours) is False
    assert copy.deepcopy(ours) == pickle.loads(pickle.dumps(ours)) == ours


def test_it_cannot_be_changed_and_defaults_are_not_shared():
    one = Ours(1)
    for change in (lambda: setattr(one, "held", 2), lambda: delattr(one, "held")):
        with pytest.raises(FrozenInstanceError):
            change()
    one.made.append(1)
    assert Ours(1).made == []


def test_a_field_without_default_after_one_with_is_refused():
    with pytest.raises(TypeError, match="non-default argument 'b'"):
        frozen(type("Wrong", (), {"__annotations__": {"a": int, "b": int}, "a": 1}))


@pytest.mark.parametrize("changes", [{}, {"held": 5}, {"known": (9,), "quiet": 2.0}])
def test_what_is_replaced_is_as_the_standard_function_replaces_it(changes):
    ours, theirs = Ours(1, made=[7]), Theirs(1, made=[7])
    ours.__dict__["kept"] = "what is remembered of one is not of the other"
    changed = frozen_replace(ours, **changes)
    assert vars(changed) == vars(replace(theirs, **changes))
    assert type(changed) is type(ours)
    assert ours.held == 1
    with pytest.raises(TypeError):
        frozen_replace(ours, none=1)
    assert frozen_replace(theirs, held=3) == Theirs(3, made=[7])  # one of the standard decorator's


def test_the_first_of_a_class_are_as_the_later_ones():
    theirs = dataclass(frozen=True)(next(both("Fresh")))
    ours = frozen(next(both("Fresh")))
    for n in range(6):
        assert vars(ours(n, known=(n,))) == vars(theirs(n, known=(n,)))
        assert vars(ours(held=n)) == vars(theirs(held=n))


@pytest.mark.parametrize(
    ("values", "named"), [((), {}), ((1, 2, 3, 4, 5, 6), {}), ((1,), {"held": 1}), ((1,), {"none": 1})]
)
def test_what_does_not_fit_is_refused_of_the_first_as_of_the_later_ones(values, named):
    ours = frozen(next(both("Fresh")))
    for _ in range(5):
        with pytest.raises(TypeError):
            ours(*values, **named)
    assert ours(3).held == 3
