"""The grade of the paper, chosen or made up of two exposures."""

from functools import cached_property

from ..station import Station
from .curve import PaperCurve, paper_curve
from .paper import split_grade


class Grading(Station):
    """Which curve the paper has."""

    reads = (
        "paper.paper", "paper.grade", "paper.split", "enlarger.soft_time", "enlarger.hard_time",
    )  # fmt: skip

    @property
    def split(self) -> bool:
        """Whether two exposures add up to the grade."""
        return self.recipe.paper.split and self.things.paper.kind == "variable contrast"

    @property
    def grade(self) -> float:
        """The grade that prints, -1 (00) to 5."""
        if self.split:
            enlarger = self.recipe.enlarger
            return split_grade(enlarger.soft_time, enlarger.hard_time)
        return self.things.paper.grade(self.recipe.paper.grade)

    @cached_property
    def curve(self) -> PaperCurve:
        """The paper's curve at the grade."""
        return self.on_grade(self.grade)

    def on_grade(self, grade: float) -> PaperCurve:
        """The paper's curve at another grade."""
        return paper_curve(self.things.paper, grade)

    @property
    def any_grade(self) -> bool:
        """Whether a part of the print can be given another grade."""
        return self.things.paper.kind == "variable contrast"
