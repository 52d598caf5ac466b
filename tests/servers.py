"""Servers for tests, each a process of its own with a library of its own. Most of a server's start
is reading its code: that is done once, by one process from which the servers are forked."""

import atexit
import json
import os
import signal
import socket
import subprocess
import sys
import tempfile
import time
import urllib.request
from collections.abc import Iterator
from contextlib import contextmanager
from functools import cache
from pathlib import Path

from silvrin.bench.browser import demo_copy

ENDS_WITHIN = 30.0  # s


class Server:
    """A server on a library, as the command line starts it."""

    def __init__(self, home: Path, command: str = "serve", port: int = 8710) -> None:
        self._folder = tempfile.TemporaryDirectory(ignore_cleanup_errors=True)
        self._at = Path(self._folder.name)
        os.mkfifo(self._at / "said")
        parent = _parent()
        assert parent.stdin is not None
        parent.stdin.write(f"{command}\t{home}\t{port}\t{self._at}\n")
        parent.stdin.flush()
        self._lines = (self._at / "said").open()
        self.process = int(self._lines.readline())
        line = next(text for text in self._lines if "http://" in text)
        self.address = line.split("http://")[1].split()[0]

    def ask(self, path: str, body: dict | None = None) -> dict:
        """What it answers to a path of its API."""
        data = None if body is None else json.dumps(body).encode()
        headers = {"content-type": "application/json"}
        request = urllib.request.Request(f"http://{self.address}/api/{path}", data, headers)
        with urllib.request.urlopen(request, timeout=60) as answer:
            return json.loads(answer.read())

    def hanging_upload(self) -> socket.socket:
        """An upload that was begun, and does not go on."""
        host, port = self.address.split(":")
        line = socket.create_connection((host, int(port)))
        head = f"POST /api/rolls/1/frames?name=a.png HTTP/1.1\r\nHost: {self.address}\r\n"
        line.sendall(f"{head}Content-Length: 90000\r\n\r\n".encode() + b"\x89PNG")
        return line

    def end(self, number: signal.Signals) -> tuple[int, float, str]:
        """Exit code (of a signal its number below 0), seconds it took, and what was said of
        errors."""
        began, ended = time.monotonic(), self._at / "ended"
        if not ended.exists():
            os.kill(self.process, number)
        while not ended.exists():
            if time.monotonic() - began > ENDS_WITHIN:
                raise TimeoutError("the server does not end")
            time.sleep(0.005)
        took = time.monotonic() - began
        code = int(ended.read_text())
        self._lines.close()
        return code, took, (self._at / "errors").read_text()

    def kill(self) -> None:
        """End it at once, if it has not ended."""
        self.end(signal.SIGKILL)


@contextmanager
def demo_server() -> Iterator[str]:
    """A server with the demo job in a folder of its own; gives its address."""
    with demo_copy() as home:
        server = Server(home, "demo", 8620)
        try:
            yield f"http://{server.address}"
        finally:
            server.kill()


@cache
def _parent() -> subprocess.Popen[str]:
    parent = subprocess.Popen(
        [sys.executable, "-m", "tests.servers"], stdin=subprocess.PIPE, text=True
    )
    atexit.register(parent.wait)
    atexit.register(parent.stdin.close)
    return parent


def _main() -> None:
    """Fork a server for each line: command, home, port, and a folder for what is told of it."""
    from silvrin.core import kernels
    from silvrin.core.spectra.chromaticity import grid_spectra
    from silvrin.demo_job import fill  # noqa: F401
    from silvrin.web.app import create_app  # noqa: F401

    kernels.load()
    grid_spectra()
    begun: dict[int, Path] = {}

    def ended(*_: object) -> None:
        for process, folder in list(begun.items()):
            found, status = os.waitpid(process, os.WNOHANG)
            if found and folder.exists():
                told = folder / "ending"
                told.write_text(str(os.waitstatus_to_exitcode(status)))
                told.replace(folder / "ended")  # whole, or not there
            if found:
                del begun[process]

    signal.signal(signal.SIGCHLD, ended)
    for line in sys.stdin:
        command, home, port, at = line.rstrip("\n").split("\t")
        signal.pthread_sigmask(signal.SIG_BLOCK, {signal.SIGCHLD})
        if process := os.fork():
            begun[process] = Path(at)
            signal.pthread_sigmask(signal.SIG_UNBLOCK, {signal.SIGCHLD})
        else:
            _serve(command, home, port, Path(at))


def _serve(command: str, home: str, port: str, at: Path) -> None:
    """What the forked process does."""
    from silvrin import cli

    signal.signal(signal.SIGCHLD, signal.SIG_DFL)
    signal.pthread_sigmask(signal.SIG_UNBLOCK, {signal.SIGCHLD})
    said = os.open(at / "said", os.O_WRONLY)
    errors = os.open(at / "errors", os.O_WRONLY | os.O_CREAT)
    os.write(said, f"{os.getpid()}\n".encode())
    os.dup2(said, 1)
    os.dup2(errors, 2)
    sys.exit(cli.main([command, "--home", home, "--port", port, "--no-open"]))


if __name__ == "__main__":
    _main()
