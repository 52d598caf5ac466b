"""Servers for journeys, each a process of its own with a library of its own. Most of a server's
start is reading its code: that is done once, by one process from which the servers are forked."""

import atexit
import os
import signal
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from functools import cache
from pathlib import Path

from silvrin.bench.browser import demo_copy


@contextmanager
def demo_server() -> Iterator[str]:
    """A server with the demo job in a folder of its own; gives its address."""
    with demo_copy() as home, server("demo", home) as address:
        yield address


@contextmanager
def server(command: str, home: Path) -> Iterator[str]:
    """A server on a library, as the command line starts it; gives its address. It is killed at the
    end."""
    parent = _parent()
    with tempfile.TemporaryDirectory() as folder:
        said = Path(folder) / "said"
        os.mkfifo(said)
        parent.stdin.write(f"{command}\t{home}\t{said}\n")
        parent.stdin.flush()
        with said.open() as lines:
            process = int(lines.readline())
            try:
                line = next(text for text in lines if "http://" in text)
                yield "http://" + line.split("http://")[1].split()[0]
            finally:
                os.kill(process, signal.SIGKILL)


@cache
def _parent() -> subprocess.Popen[str]:
    parent = subprocess.Popen(
        [sys.executable, "-m", "tests.browser.servers"], stdin=subprocess.PIPE, text=True
    )
    atexit.register(parent.wait)
    atexit.register(parent.stdin.close)
    return parent


def _main() -> None:
    from silvrin import cli
    from silvrin.core import kernels
    from silvrin.core.spectra.chromaticity import grid_spectra
    from silvrin.demo_job import fill  # noqa: F401
    from silvrin.web.app import create_app  # noqa: F401

    kernels.load()
    grid_spectra()
    signal.signal(signal.SIGCHLD, signal.SIG_IGN)
    for line in sys.stdin:
        command, home, said = line.rstrip("\n").split("\t")
        if os.fork():
            continue
        signal.signal(signal.SIGCHLD, signal.SIG_DFL)
        out = os.open(said, os.O_WRONLY)
        os.write(out, f"{os.getpid()}\n".encode())
        os.dup2(out, 1)
        os.dup2(os.open(os.devnull, os.O_WRONLY), 2)
        os._exit(cli.main([command, "--home", home, "--port", "8620", "--no-open"]))


if __name__ == "__main__":
    _main()
