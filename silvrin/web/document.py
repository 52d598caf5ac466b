"""The API document on standard output: `python -m silvrin.web.document`."""

import json
import sys
import tempfile
from pathlib import Path

from ..store.library import Library
from .app import create_app


def document() -> str:
    """OpenAPI 3.1 of the application, with the messages of the live socket, as JSON text."""
    with tempfile.TemporaryDirectory() as home:
        described = create_app(Library(Path(home))).openapi()
    return json.dumps(described, indent=1, sort_keys=True) + "\n"


if __name__ == "__main__":
    sys.stdout.write(document())
