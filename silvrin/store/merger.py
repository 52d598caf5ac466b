"""Merging frames of a roll into one."""

import hashlib
from collections.abc import Callable
from typing import TYPE_CHECKING

from ..core.capture.brackets import BracketFrame, merge
from ..core.picture import LinearPicture
from ..errors import BadCapture, NotFound
from . import captures, rolls
from .captures import Capture
from .merging import MergeFile, Source, exposure_of

if TYPE_CHECKING:
    from .library import Library


class Merger:
    """Merges frames of a library."""

    def __init__(self, library: "Library") -> None:
        self._library = library

    def made(
        self, file: MergeFile, progress: Callable[[float], None], wanted: Callable[[], bool]
    ) -> LinearPicture:
        """The light of a merge; raises Dropped when it is no longer wanted."""
        merged = merge(self.bracket(file.sources), file.reference, file.ghosts, progress, wanted)
        picture = LinearPicture.with_pyramid(merged.light, merged.scale)
        picture.limits = merged.limits
        return picture

    def bracket(self, sources: list[Source]) -> list[BracketFrame]:
        """The frames of a bracket with their light."""
        pictures = [self._library.picture(source.sha256) for source in sources]
        return [
            BracketFrame(picture.levels[0], picture.scale, source.exposure, picture.limits)
            for source, picture in zip(sources, pictures, strict=True)
        ]

    def file_of(self, frame_ids: list[int], reference: int, ghosts: float) -> MergeFile:
        """What a merge of frames would be made from; `reference` is the id of the frame that things
        which moved are taken from. Raises BadCapture or NotFound."""
        found = [rolls.frame(self._library.database.read, frame_id) for frame_id in frame_ids]
        if reference not in frame_ids:
            raise BadCapture(f"The reference, frame {reference}, is not among the frames given.")
        sources = [
            Source(sha256=f.sha256, exposure=exposure_of(f.metadata, f.title)) for f in found
        ]
        return MergeFile(sources=sources, reference=frame_ids.index(reference), ghosts=ghosts)

    def made_from(self, sha256: str) -> MergeFile:
        """What a merged capture was made from; raises NotFound for another kind."""
        if captures.capture(self._library.database.read, sha256).kind != "merged":
            raise NotFound("This capture is not merged from others.")
        return MergeFile.model_validate_json(self._library.original(sha256).read_text())

    def merge(
        self,
        frame_ids: list[int],
        reference: int,
        ghosts: float,
        progress: Callable[[float], None] = lambda share: None,
        wanted: Callable[[], bool] = lambda: True,
        into: int | None = None,
    ) -> int:
        """Merge frames of a roll into a new frame, or anew into a merged one, which keeps its
        prints; gives its id.

        Nothing is kept until it is whole. Raises BadCapture for no bracket, Dropped when no longer
        wanted, NotFound and DiskFull.
        """
        file = self.file_of(frame_ids, reference, ghosts)
        if into is not None:
            self.made_from(rolls.frame(self._library.database.read, into).sha256)
        first = rolls.frame(self._library.database.read, reference)
        text = file.model_dump_json(indent=1).encode()
        sha256 = hashlib.sha256(text).hexdigest()
        if captures.find_capture(self._library.database.read, sha256) is None:
            picture = self.made(file, progress, wanted)
            self._library.pictures.keep(sha256, picture)
            self._library.pictures.settle()
            self._library.keep_original(self._library.receive([text]), ".json")
            known = Capture(
                sha256=sha256,
                file_name=f"{first.title}, merged.json",
                suffix=".json",
                kind="merged",
                bytes=len(text),
                width=picture.width,
                height=picture.height,
                scale=picture.scale,
                metadata=first.metadata.model_dump_json(),
            )
            with self._library.database.write() as connection:
                captures.add_capture(connection, known)
        with self._library.database.write() as connection:
            if into is not None:
                rolls.show_capture(connection, into, sha256)
                return into
            title = f"{first.title}, merged"
            return rolls.add_frame(connection, first.roll_id, sha256, title)
