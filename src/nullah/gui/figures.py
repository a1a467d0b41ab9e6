"""Lengths and sentences in the unit that a project is shown in."""

from __future__ import annotations

from nullah.core.document.project import Project
from nullah.core.values import measure


class Figures:
    """What the session says lengths by; ``project`` knows the unit."""

    @property
    def project(self) -> Project:
        """The project that is shown."""
        raise NotImplementedError

    def figures(self, mm: float) -> str:
        """A length in the unit shown."""
        return measure.in_words(mm, self.project.units, self.project.denominator)

    def figure_and_hair(self, mm: float) -> tuple[str, str]:
        """A length in the unit shown, and apart from it what the rounding leaves out, in words or ""."""
        whole = self.figures(mm)
        figure = measure.show_length(mm, self.project.units, self.project.denominator).text
        return figure, whole.removeprefix(figure).strip()

    def figure(self, mm: float) -> str:
        """A length in the unit shown, without the words for what the rounding leaves out: for fields and tight places."""
        return self.figure_and_hair(mm)[0]

    def fine(self, mm: float) -> str:
        """What is read or planed off, finer than any rule."""
        return measure.show_fine(mm, self.project.units)

    def signed_figure(self, mm: float) -> str:
        """A length for a drawing: in inches, a minus or plus after it stands for less, or and, a hair."""
        figure, hair = self.figure_and_hair(mm)
        return figure + {"less a hair": "\u2212", "and a hair": "+"}.get(hair, "")

    def told(self, sentence: str) -> str:
        """A sentence of the plan with its lengths in the unit shown."""
        return measure.told(sentence, self.project.units, self.project.denominator)

    def told_to_work_by(self, sentence: str) -> str:
        """As ``told``, with what the rounding leaves out: for what one marks or sets by."""
        return measure.told(sentence, self.project.units, self.project.denominator, hair=True)
