"""Watches over captures that are referred to in place: says when they are lost, and finds them."""

import logging
import os
import threading
from pathlib import Path

from ..errors import BadCapture
from . import captures
from .database import Database, now
from .folders import path_of, text_of
from .reception import hash_of

LOG = logging.getLogger(__name__)
EVERY = 15.0  # s


def look_after(database: Database) -> int:
    """See whether every capture that lies outside the library is where it was, unchanged; gives how
    many are lost."""
    lost = 0
    for capture in captures.referred(database.read):
        there = _is_there(capture)
        lost += not there
        if there == (capture.lost_at is not None):
            with database.write() as connection:
                captures.set_lost(connection, capture.sha256, None if there else now())
    return lost


def _is_there(capture: captures.Referred) -> bool:
    place = path_of(capture.place)
    try:
        found = place.stat()
    except OSError:
        return False
    if found.st_size != capture.bytes:
        return False
    if found.st_mtime_ns == capture.place_time:
        return True
    try:
        return hash_of(place) == capture.sha256
    except BadCapture:
        return False


def find_again(database: Database, folder: Path) -> int:
    """Look through a folder and those below it for lost captures, by size and content; gives how
    many were found."""
    lost = [c for c in captures.referred(database.read) if c.lost_at is not None]
    by_size: dict[int, set[str]] = {}
    for capture in lost:
        by_size.setdefault(capture.bytes, set()).add(capture.sha256)
    found = 0
    for top, _, names in os.walk(folder):
        for name in names:
            path = Path(top) / name
            try:
                facts = path.stat()
            except OSError:
                continue
            wanted = by_size.get(facts.st_size)
            if not wanted:
                continue
            try:
                sha256 = hash_of(path)
            except BadCapture:
                continue
            if sha256 in wanted:
                with database.write() as connection:
                    captures.set_place(
                        connection, sha256, text_of(path.absolute()), facts.st_mtime_ns
                    )
                wanted.discard(sha256)
                found += 1
    return found


class Watch:
    """Looks after them now and then, until it is stopped."""

    def __init__(self, database: Database, every: float = EVERY) -> None:
        self._database, self._every = database, every
        self._stop = threading.Event()
        self._thread = threading.Thread(target=self._run, name="watch", daemon=True)

    def start(self) -> None:
        self._thread.start()

    def stop(self) -> None:
        self._stop.set()

    def _run(self) -> None:
        while True:
            try:
                look_after(self._database)
            except Exception:  # a disk that hangs, a locked database: it may be over next time
                LOG.exception("captures outside the library were not looked after")
            if self._stop.wait(self._every):
                return
