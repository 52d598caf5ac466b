"""The command line: serve, demo, deliver, bench.

Exit codes: 0 all went well, 1 something failed (said on standard error), 2 wrong usage.
"""

import argparse
import contextlib
import ctypes
import json
import os
import signal
import socket
import sys
import threading
import webbrowser
from collections.abc import Sequence
from pathlib import Path
from typing import TYPE_CHECKING

from rich.console import Console
from rich.markup import escape
from rich.progress import BarColumn, Progress, TextColumn, TimeRemainingColumn

from . import __version__
from .errors import BadRecipe, SilvrinError

if TYPE_CHECKING:
    from .store.library import Library

DEFAULT_PORT = 8420
OPENS_AFTER = 0.4  # s, when the server listens
PORTS_TRIED = 50
M_ARENA_MAX = -8  # of glibc's mallopt
OUT = Console(highlight=False)
ERR = Console(stderr=True, highlight=False)


def main(arguments: Sequence[str] | None = None) -> int:
    """Run a command; gives the exit code."""
    options = _parser().parse_args(arguments)
    try:
        return int(options.run(options))
    except BadRecipe as error:
        ERR.print(f"[red]{escape(str(error))}[/red]", soft_wrap=True)
        return 2
    except SilvrinError as error:
        ERR.print(f"[red]{escape(str(error))}[/red]", soft_wrap=True)
        return 1
    except KeyboardInterrupt:
        return 130


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(
        prog="silvrin",
        description="Black and white prints from colour captures, by film and darkroom.",
        epilog="Exit codes: 0 all went well, 1 something failed, 2 wrong usage or recipe.",
    )
    parser.add_argument("--version", action="version", version=f"silvrin {__version__}")
    commands = parser.add_subparsers(required=True, metavar="COMMAND")

    def command(name: str, text: str) -> argparse.ArgumentParser:
        return commands.add_parser(name, help=text, description=text)

    for name, text, run in (
        ("serve", "Start the application with your library.", _serve),
        ("demo", "Start the application with the demo job, a hill pottery.", _demo),
    ):
        sub = command(name, text)
        sub.add_argument("--home", type=Path, metavar="FOLDER", help="folder of the library")
        sub.add_argument(
            "--port",
            type=int,
            default=DEFAULT_PORT,
            help=f"port on 127.0.0.1; the next free one when it is taken (default {DEFAULT_PORT})",
        )
        sub.add_argument(
            "--no-open", action="store_true", help="do not open a browser at its address"
        )
        sub.set_defaults(run=run)

    sub = command("deliver", "Print image files and write them to a folder.")
    sub.add_argument("images", nargs="+", type=Path, metavar="IMAGE")
    sub.add_argument("-o", "--out", type=Path, required=True, metavar="FOLDER")
    sub.add_argument("--recipe", type=Path, metavar="FILE", help="recipe as JSON")
    sub.add_argument(
        "--propose", action="store_true",
        help="place, develop, time and grade each image anew, as is proposed for it",
    )  # fmt: skip
    sub.add_argument("--format", choices=("tiff", "jpeg"), default="tiff")
    sub.add_argument("--long-side", type=int, metavar="PIXELS", help="reduce to this size")
    sub.set_defaults(run=_deliver)

    sub = command("bench", "Measure speed and memory, as ratios within one run.")
    sub.add_argument("--json", action="store_true", help="one row a figure, as JSON")
    sub.add_argument("--quick", action="store_true", help="leave out browser and large pictures")
    sub.set_defaults(run=_bench)
    return parser


def _serve(options: argparse.Namespace) -> int:
    from .store.library import open_library, standard_home

    return _start(open_library(options.home or standard_home()), options)


def _demo(options: argparse.Namespace) -> int:
    from .demo_job import fill
    from .store.library import open_library, standard_home

    library = open_library(options.home or standard_home().with_name("silvrin-demo"))
    with _progress() as progress:
        task = progress.add_task("Laying out the demo job", total=1.0)
        fill(library, lambda share: progress.update(task, completed=share))
    return _start(library, options)


def _start(library: "Library", options: argparse.Namespace) -> int:
    import uvicorn

    from .web.app import create_app
    from .web.connections import CONNECTIONS_END, PromptProtocol, Server
    from .web.guard import MOST_JSON

    _share_arenas()
    library.clear_left()
    listener, used = _listen(options.port)
    if used != options.port:
        ERR.print(f"Port {options.port} is taken by another program; using {used} instead.")
    signal.signal(signal.SIGTERM, lambda *_: sys.exit(0))  # it is no failure, whenever it comes
    OUT.print(f"Silvrin is ready at [bold]http://127.0.0.1:{used}[/bold]  (stop it with Ctrl+C)")
    OUT.file.flush()
    app = create_app(library)
    config = uvicorn.Config(
        app,
        log_level="warning",
        http=PromptProtocol,
        timeout_graceful_shutdown=CONNECTIONS_END,
        ws_max_size=MOST_JSON,
        ws_per_message_deflate=False,  # costs more than sending pixels over loopback
    )
    if not options.no_open and OUT.is_terminal and _has_screen():
        opening = threading.Timer(OPENS_AFTER, webbrowser.open, (f"http://127.0.0.1:{used}",))
        opening.daemon = True
        opening.start()
    try:
        Server(config, app.state.stop).run(sockets=[listener])
    finally:
        app.state.settle()  # no step is cut off by the interpreter's own end
    return 0


def _has_screen() -> bool:
    """Whether there is a desktop on which a browser can open."""
    if sys.platform in ("darwin", "win32"):
        return True
    return bool(os.environ.get("DISPLAY") or os.environ.get("WAYLAND_DISPLAY"))


def _share_arenas() -> None:
    """Have the C library share its arenas: left alone it keeps one for each thread, with all that
    pictures took there."""
    with contextlib.suppress(OSError, AttributeError):  # another C library than glibc
        ctypes.CDLL("libc.so.6").mallopt(M_ARENA_MAX, 2)


def _listen(port: int) -> tuple[socket.socket, int]:
    """A socket on loopback, at the port or the next free one."""
    if not 1 <= port <= 65535:
        raise SilvrinError(f"--port {port}: a port is a number from 1 to 65535.")
    for candidate in range(port, min(port + PORTS_TRIED, 65536)):
        # named, so that asyncio sends small answers at once (TCP_NODELAY): without it each one on a
        # connection that is kept waits 40 ms for an acknowledgement
        listener = socket.socket(socket.AF_INET, socket.SOCK_STREAM, socket.IPPROTO_TCP)
        listener.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            listener.bind(("127.0.0.1", candidate))
            listener.listen(128)
        except OSError:
            listener.close()
            continue
        return listener, candidate
    raise SilvrinError(
        f"Ports {port} to {port + PORTS_TRIED - 1} are all taken; give another one with --port."
    )


def _deliver(options: argparse.Namespace) -> int:
    from . import shelf
    from .core.recipe import Recipe
    from .core.recipe.drawings import PLAIN
    from .core.recipe.files import read_recipe
    from .core.render import Darkroom, Sitting
    from .core.render.proposing import proposed
    from .files.capture import read_capture
    from .files.deliver import deliver, disk_error, fit_name, free_name
    from .files.kinds import is_rendered, sniff

    recipe, drawings = Recipe(), PLAIN
    if options.recipe:
        try:
            recipe, sheets = read_recipe(
                options.recipe.read_bytes(), shelf.shipped().zone_part, str(options.recipe)
            )
        except OSError as error:
            raise BadRecipe(f"{options.recipe}: cannot be read ({error.strerror}).") from error
        drawings = sheets.of(recipe.in_force)
    path = shelf.light_path(recipe, drawings)
    if options.long_side is not None and not 64 <= options.long_side <= 65000:
        raise BadRecipe(f"--long-side {options.long_side}: 64 to 65000 pixels are possible.")
    try:
        options.out.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        raise disk_error(error, options.out) from error

    failed = 0
    with _progress() as progress:
        for image in options.images:
            task = progress.add_task(escape(image.name), total=1.0)
            try:
                capture = read_capture(image).picture(pyramid=False)
                sitting = Sitting(image, capture, path, rendered=is_rendered(image, sniff(image)))
                if options.propose:
                    found = proposed(Darkroom(), sitting)
                    sitting = sitting.under(shelf.light_path(found.recipe, drawings))
                    progress.console.print(escape(f"{image.name}: {found.says}"), soft_wrap=True)
                target = free_name(options.out, fit_name(image.stem), options.format)
                deliver(
                    sitting,
                    target,
                    options.format,
                    options.long_side,
                    lambda share, task=task: progress.update(task, completed=share),  # type: ignore[misc]
                )
                progress.console.print(escape(str(target)), soft_wrap=True)
            except SilvrinError as error:
                failed += 1
                progress.remove_task(task)
                ERR.print(f"[red]{escape(str(error))}[/red]", soft_wrap=True)
    return 1 if failed else 0


def _bench(options: argparse.Namespace) -> int:
    from .bench import as_table, measure

    with _progress() as progress:
        task = progress.add_task("Measuring", total=1.0)
        rows = measure(
            options.quick,
            lambda share: progress.update(task, completed=share),
            lambda text: progress.console.print(text),
        )
    if options.json:
        for row in rows:
            sys.stdout.write(json.dumps(vars(row)) + "\n")
    else:
        OUT.print(as_table(rows))
    return 0 if all(row.holds for row in rows) else 1


def _progress() -> Progress:
    return Progress(
        TextColumn("{task.description}"),
        BarColumn(),
        TextColumn("{task.percentage:>3.0f} %"),
        TimeRemainingColumn(),
        console=ERR,
        transient=True,
    )


if __name__ == "__main__":
    sys.exit(main())
