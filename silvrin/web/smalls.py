"""Small pictures of frames and prints, made when they are first asked for."""

from pathlib import Path

from ..core.recipe import Recipe
from ..core.render import Darkroom
from ..files.first_look import SMALL
from ..files.thumbnails import thumbnail
from ..store import prints
from ..store.library import Library
from ..store.rolls import Frame


class SmallPictures:
    """Files of small pictures in the cache of a library."""

    def __init__(self, library: Library, darkroom: Darkroom) -> None:
        self._library, self._darkroom = library, darkroom

    def of_frame(self, frame: Frame, as_printed: bool = True) -> Path:
        """The print that the sheet shows of a frame, or its capture in colour."""
        shown = frame.shown if as_printed else None
        return self.of_state(frame, shown.head) if shown else self._in_colour(frame)

    def of_state(self, frame: Frame, state: int) -> Path:
        """A state of a print."""
        kept = self._library.smalls.of_print(frame.sha256, state)
        if not kept.exists():
            recipe = prints.recipe_of(self._library.database.read, state)
            sitting = self._library.sitting(frame, recipe)
            view = sitting.picture.whole(SMALL)
            self._library.smalls.keep(kept, thumbnail(self._darkroom.view(sitting, view)))
        return kept

    def _in_colour(self, frame: Frame) -> Path:
        kept = self._library.smalls.found(frame.sha256)
        if kept is None:
            sitting = self._library.sitting(frame, Recipe())
            kept = self._library.smalls.of(frame.sha256)
            view = sitting.picture.whole(SMALL)
            self._library.smalls.keep(kept, thumbnail(self._darkroom.colour(sitting, view)))
        return kept
