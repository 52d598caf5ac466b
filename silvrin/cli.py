"""The command line: serve, demo, deliver and its kin, bench, completion.

Exit codes: 0 all went well, 1 something failed (said on standard error), 2 wrong usage.
"""

import argparse
import contextlib
import ctypes
import json
import signal
import socket
import sys
import threading
import webbrowser
from collections.abc import Callable, Sequence
from importlib import import_module
from pathlib import Path
from typing import TYPE_CHECKING

import shtab
from rich.markup import escape

from . import __version__
from .commands.said import ERR, OUT, progress
from .errors import BadRecipe, SilvrinError
from .files.papers import PAPERS

if TYPE_CHECKING:
    from .store.library import Library

DEFAULT_PORT = 8420
FORMATS = ("tiff", "png", "jpeg", "jxl", "avif", "pdf", "exr")
OPENS_AFTER = 0.4  # s, when the server listens
PORTS_TRIED = 50
M_ARENA_MAX = -8  # of glibc's mallopt


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
    sub.add_argument(
        "images", nargs="+", metavar="IMAGE", help="a file, a folder, or a pattern in quotes"
    )
    sub.add_argument("-o", "--out", type=Path, required=True, metavar="FOLDER")
    how = sub.add_mutually_exclusive_group()
    how.add_argument("--recipe", type=Path, metavar="FILE", help="recipe as JSON")
    how.add_argument("--start", metavar="ID", help="starting print")
    sub.add_argument(
        "--propose", action="store_true",
        help="place, develop, time and grade each image anew, as is proposed for it",
    )  # fmt: skip
    sub.add_argument(
        "--set", dest="sets", action="append", default=[], metavar="NAME",
        help="a set of outputs: web, print-shop, archive; can be given again",
    )  # fmt: skip
    sub.add_argument("--outputs", type=Path, metavar="FILE", help="a list of outputs as JSON")
    sub.add_argument("--format", choices=FORMATS, help="of one file (default tiff)")
    sub.add_argument("--long-side", type=int, metavar="PIXELS", help="reduce to this size")
    sub.add_argument(
        "--jobs", type=int, metavar="N",
        help="processes (default: as there are processors, and memory for them)",
    )  # fmt: skip
    sub.add_argument("--cluster", metavar="ADDRESS", help="print on the workers of a Dask cluster")
    sub.add_argument(
        "--send", action="store_true",
        help="send captures to the cluster and files back, where it shares no folder with this",
    )  # fmt: skip
    sub.add_argument(
        "--resume", action="store_true",
        help="leave files that are there already, of the same capture",
    )  # fmt: skip
    sub.add_argument("--json", action="store_true", help="tell each image's end as a line of JSON")
    sub.set_defaults(run=_later("deliver", "deliver"))

    sub = command("contact-sheet", "Lay images out as a contact sheet to print.")
    sub.add_argument(
        "images", nargs="+", metavar="IMAGE", help="a file, a folder, or a pattern in quotes"
    )
    sub.add_argument("-o", "--out", type=Path, required=True, metavar="FILE", help=".pdf or .jpg")
    how = sub.add_mutually_exclusive_group()
    how.add_argument("--recipe", type=Path, metavar="FILE", help="recipe as JSON")
    how.add_argument("--start", metavar="ID", help="starting print")
    how.add_argument("--propose", action="store_true", help="each as is proposed for it")
    sub.add_argument("--paper", choices=tuple(PAPERS), default="a4")
    sub.add_argument("--columns", type=int, default=6, help="frames beside each other (default 6)")
    sub.set_defaults(run=_later("sheet", "contact_sheet"))

    sub = command("negative", "Write a negative for contact printing.")
    sub.add_argument("image", type=Path, metavar="IMAGE")
    sub.add_argument("-o", "--out", type=Path, required=True, metavar="FILE", help=".tif .png .pdf")
    how = sub.add_mutually_exclusive_group()
    how.add_argument("--recipe", type=Path, metavar="FILE", help="recipe as JSON")
    how.add_argument("--start", metavar="ID", help="starting print")
    how.add_argument("--propose", action="store_true", help="as is proposed for it")
    sub.add_argument("--mm", type=float, default=240, help="long side of the print (default 240)")
    sub.add_argument("--ppi", type=float, default=300, help="pixels an inch (default 300)")
    sub.add_argument("--ink", default="#000000", metavar="#RRGGBB", help="colour of full ink")
    sub.add_argument("--readings", type=Path, metavar="FILE", help="of a target: linearises it")
    sub.add_argument("--not-mirrored", action="store_true", help="emulsion away from emulsion")
    sub.add_argument("--bare", action="store_true", help="without marks and step wedge")
    sub.set_defaults(run=_later("contact", "negative"))

    sub = command("measure", "Fit a contact process from the readings of its target.")
    sub.add_argument(
        "readings", type=Path, metavar="FILE",
        help="densities: lines, CSV, CGATS.17; or a photograph or scan of the target",
    )  # fmt: skip
    sub.add_argument(
        "--steps", type=int, choices=(21, 31), default=31, help="of a photograph (default 31)"
    )
    sub.add_argument(
        "--base", type=float, default=0.06, metavar="D",
        help="density of the paper's white, of a photograph (default 0.06)",
    )  # fmt: skip
    sub.add_argument(
        "--target", type=Path, metavar="FILE", help="write the next target, linearised"
    )
    sub.set_defaults(run=_later("contact", "measure"))

    sub = command("completion", "Print what completes these commands in a shell.")
    sub.add_argument("shell", choices=shtab.SUPPORTED_SHELLS)
    sub.set_defaults(run=_completion)

    sub = command("table", "Write a print's tone and colour as a table for other programs.")
    sub.add_argument("-o", "--out", type=Path, required=True, metavar="FILE", help=".cube or .clf")
    how = sub.add_mutually_exclusive_group()
    how.add_argument("--recipe", type=Path, metavar="FILE", help="recipe as JSON")
    how.add_argument("--start", metavar="ID", help="starting print")
    sub.add_argument("--size", type=int, default=65, metavar="PLACES", help="a side (default 65)")
    sub.add_argument(
        "--input", choices=("srgb", "bt2020"), default="srgb",
        help="what the table is laid on: sRGB (default), or linear light of BT.2020",
    )  # fmt: skip
    sub.set_defaults(run=_later("table", "table"))

    sub = command("bench", "Measure speed and memory, as ratios within one run.")
    sub.add_argument("--json", action="store_true", help="one row a figure, as JSON")
    sub.add_argument("--quick", action="store_true", help="leave out browser and large pictures")
    sub.set_defaults(run=_bench)
    return parser


def _later(module: str, name: str) -> Callable[[argparse.Namespace], int]:
    """A command of a module that is loaded when it is wanted."""

    def run(options: argparse.Namespace) -> int:
        return int(getattr(import_module(f".commands.{module}", __package__), name)(options))

    return run


def _serve(options: argparse.Namespace) -> int:
    from .store.library import open_library, standard_home

    return _start(open_library(options.home or standard_home()), options)


def _demo(options: argparse.Namespace) -> int:
    from .demo_job import fill
    from .store.library import open_library, standard_home

    library = open_library(options.home or standard_home().with_name("silvrin-demo"))
    with progress() as bar:
        task = bar.add_task("Laying out the demo job", total=1.0)
        fill(library, lambda share: bar.update(task, completed=share))
    return _start(library, options)


def _start(library: "Library", options: argparse.Namespace) -> int:
    import uvicorn

    from .files.reveal import has_screen
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
    if not options.no_open and OUT.is_terminal and has_screen():
        opening = threading.Timer(OPENS_AFTER, webbrowser.open, (f"http://127.0.0.1:{used}",))
        opening.daemon = True
        opening.start()
    try:
        Server(config, app.state.stop).run(sockets=[listener])
    finally:
        app.state.settle()  # no step is cut off by the interpreter's own end
    return 0


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


def _completion(options: argparse.Namespace) -> int:
    sys.stdout.write(shtab.complete(_parser(), options.shell) + "\n")
    return 0


def _bench(options: argparse.Namespace) -> int:
    from .bench import as_table, measure

    with progress() as bar:
        task = bar.add_task("Measuring", total=1.0)
        rows = measure(
            options.quick,
            lambda share: bar.update(task, completed=share),
            lambda text: bar.console.print(text),
        )
    if options.json:
        for row in rows:
            sys.stdout.write(json.dumps(vars(row)) + "\n")
    else:
        OUT.print(as_table(rows))
    return 0 if all(row.holds for row in rows) else 1


if __name__ == "__main__":
    sys.exit(main())
