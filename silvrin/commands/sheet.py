"""Images as a contact sheet."""

import argparse
from collections.abc import Callable
from pathlib import Path

from rich.markup import escape

from ..batch import images_in
from ..errors import BadRecipe, SilvrinError
from ..files.contact_sheet import Entry, as_jpeg, as_pdf, pages
from ..files.whole import whole_or_nothing
from ..printing import open_capture
from .said import ERR, OUT, progress, starting

SMALL = 640  # pixels of a frame


def contact_sheet(options: argparse.Namespace) -> int:
    """Lay images out on pages."""
    kind = options.out.suffix.lower()
    if kind not in (".pdf", ".jpg", ".jpeg"):
        raise BadRecipe(f"--out {options.out}: a contact sheet is a .pdf or a .jpg file.")
    if not 2 <= options.columns <= 12:
        raise BadRecipe(f"--columns {options.columns}: 2 to 12 are possible.")
    if options.start:
        starting(options.start)
    images = images_in(options.images)
    failed: list[SilvrinError] = []
    with progress() as bar:
        task = bar.add_task(f"{len(images)} images", total=len(images))
        entries = []
        for number, image in enumerate(images, 1):
            try:
                entries.append(_entry(image, number, options))
            except SilvrinError as error:
                failed.append(error)
            bar.advance(task)
    for wrong in failed:
        ERR.print(f"[red]{escape(str(wrong))}[/red]", soft_wrap=True)
    if not entries:
        raise SilvrinError("None of these images can be printed.")
    title = options.out.stem
    made = list(pages(title, entries, options.paper, options.columns))
    if kind == ".pdf":
        files = {options.out: as_pdf(title, made, options.paper)}
    else:
        files = {
            options.out.with_stem(f"{title} {n}") if len(made) > 1 else options.out: as_jpeg(page)
            for n, page in enumerate(made, 1)
        }
    for path, content in files.items():
        with whole_or_nothing(path) as file:
            file.write(content)
        OUT.print(escape(str(path)), soft_wrap=True)
    return 1 if failed else 0


def _entry(image: Path, number: int, options: argparse.Namespace) -> Callable[[], Entry]:
    """A frame of a contact sheet: printed small, at once."""
    capture = open_capture(image)
    if options.start:
        made = capture.starting(options.start)
    elif options.propose:
        made = capture.proposed()
    else:
        made = capture.under(options.recipe)
    entry = Entry(made.numbers(SMALL, bits=8), number, image.stem)
    return lambda: entry
