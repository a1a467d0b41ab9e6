"""Parts and dimension chains: what every kind of piece gives."""

from __future__ import annotations

from typing import Literal

from nullah.core.values.frozen import frozen

Role = Literal["show", "inside", "hidden"]


@frozen
class Part:
    """One part, finished sizes in mm: ``length`` along the grain, ``width``, ``thickness``.

    ``planned`` are the sizes the plan would give were nothing cut; they differ from the part's own only where it is marked
    as cut. ``end_zone`` is the length at each end in which no knot may lie (the joint and one thickness). ``long_by`` is
    left on for fitting last. ``drives`` says what depends on it.
    """

    id: str
    name: str
    length: float
    width: float
    thickness: float
    species: str
    role: Role
    show_face: str
    joints: str
    group: str = ""
    end_zone: float = 0.0
    long_by: float = 0.0
    wide_by: float = 0.0
    fitted: bool = True  # left long and fitted last; else shot to its size before its joints are cut
    in_order: bool = False  # its group is sawn in sequence from one length, so that the figure runs on
    cut: bool = False
    planned: tuple[float, float, float] = ()  # type: ignore[assignment]  # filled in below where not given
    measured: tuple[str, ...] = ()
    drives: tuple[str, ...] = ()
    piece: str = "1"  # whose part it is

    def __post_init__(self) -> None:
        if not self.planned:
            object.__setattr__(self, "planned", self.sizes)

    @property
    def sizes(self) -> tuple[float, float, float]:
        """Length, width, thickness."""
        return (self.length, self.width, self.thickness)


@frozen
class ChainLine:
    """One line of arithmetic: ``times`` x ``each`` mm. ``edit`` names what typing here changes, "" when computed."""

    label: str
    each: float
    times: int = 1
    edit: str = ""

    @property
    def mm(self) -> float:
        """What the line adds."""
        return self.times * self.each


@frozen
class Chain:
    """A dimension chain: lines that add up to ``total`` mm, the named outside size, which may be typed too."""

    name: str
    lines: tuple[ChainLine, ...]
    edit: str = ""
    rod: str = ""  # the id of the story stick it is

    @property
    def total(self) -> float:
        """The sum of the lines, mm."""
        return sum(line.mm for line in self.lines)
