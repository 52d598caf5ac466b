"""Finished pictures that prints are matched to: what was measured on them, and how they look. They
lie in the cache, the last few of them; a picture that is not there any more is given again."""

import json
from dataclasses import asdict
from pathlib import Path

import numpy as np

from ..core.matching.reference import Reference
from ..errors import NotFound
from ..files.whole import whole_or_nothing

MOST_KEPT = 20


class References:
    """Those of a library."""

    def __init__(self, folder: Path) -> None:
        self._folder = folder

    def keep(self, name: str, reference: Reference, shown: bytes) -> None:
        """Keep one under a name, with how it looks as a JPEG; raises DiskFull."""
        self._folder.mkdir(parents=True, exist_ok=True)
        found = asdict(reference) | {"tones": [float(v) for v in reference.tones]}
        for suffix, data in (("jpg", shown), ("json", json.dumps(found).encode())):
            with whole_or_nothing(self._folder / f"{name}.{suffix}") as file:
                file.write(data)
        kept = sorted(self._folder.glob("*.json"), key=lambda path: path.stat().st_mtime)
        for old in kept[:-MOST_KEPT]:
            old.unlink(missing_ok=True)
            old.with_suffix(".jpg").unlink(missing_ok=True)

    def get(self, name: str) -> Reference:
        """What was measured; raises NotFound."""
        found = json.loads(self._read(name, "json"))
        tint = found["tint"] and tuple(found["tint"])
        return Reference(np.array(found["tones"]), found["noise"], tint, found["long_side"])

    def shown(self, name: str) -> bytes:
        """How it looks, a JPEG; raises NotFound."""
        return self._read(name, "jpg")

    def _read(self, name: str, suffix: str) -> bytes:
        try:
            return (self._folder / f"{name}.{suffix}").read_bytes()
        except FileNotFoundError as error:
            raise NotFound(
                "That reference picture is not kept any more; give its file again."
            ) from error
