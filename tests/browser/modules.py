"""Modules of the front end in Chromium, for tests of its own logic."""

import json
import subprocess
import tempfile
import threading
import unittest
from http.server import SimpleHTTPRequestHandler, ThreadingHTTPServer
from pathlib import Path
from typing import Any, ClassVar

from silvrin.bench.browser import chromium

FRONTEND = Path(__file__).parent.parent.parent / "frontend"


class Answers:
    """What the stand-in for the server answers, and what it was asked."""

    def __init__(self) -> None:
        self.asked: list[tuple[str, str, Any]] = []
        self.refuse: list[dict] = []
        self.silent = False
        self.kept: dict = {}


class Handler(SimpleHTTPRequestHandler):
    answers: ClassVar[Answers]

    def log_message(self, *_: object) -> None:
        pass

    def _say(self, status: int, body: object) -> None:
        data = json.dumps(body).encode()
        self.send_response(status)
        self.send_header("content-type", "application/json")
        self.send_header("content-length", str(len(data)))
        self.end_headers()
        self.wfile.write(data)

    def do_GET(self) -> None:
        if not self.path.startswith("/api/"):
            if self.path == "/":
                self._say(200, "modules")
            else:
                super().do_GET()
            return
        self._say(200, self.answers.kept)

    def do_POST(self) -> None:
        body = json.loads(self.rfile.read(int(self.headers["content-length"])))
        if self.answers.silent:
            self.close_connection = True
            self.connection.close()
            return
        self.answers.asked.append(("POST", self.path, body))
        if self.answers.refuse:
            problem = self.answers.refuse.pop(0)
            self._say(problem["status"], problem)
            return
        kept = self.answers.kept
        kept |= {"head": kept["head"] + 1, "label": body["label"], "recipe": body["recipe"]}
        self._say(201, kept)


class WithModules(unittest.TestCase):
    """Serves the built modules, and stands in for the server with what it answers."""

    @classmethod
    def setUpClass(cls) -> None:
        folder = tempfile.TemporaryDirectory()
        cls.addClassCleanup(folder.cleanup)
        subprocess.run(
            ["npx", "--no-install", "vite", "build", "-c", "vite.modules.config.ts",
             "--outDir", folder.name, "--logLevel", "error"],
            cwd=FRONTEND, check=True, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL,
        )  # fmt: skip
        handler = type(
            "Served",
            (Handler,),
            {"__init__": lambda self, *a: Handler.__init__(self, *a, directory=folder.name)},
        )
        server = ThreadingHTTPServer(("127.0.0.1", 0), handler)
        cls.handler = handler
        threading.Thread(target=server.serve_forever, daemon=True).start()
        cls.addClassCleanup(server.server_close)
        cls.addClassCleanup(server.shutdown)
        profile = tempfile.TemporaryDirectory()
        cls.addClassCleanup(profile.cleanup)
        cls.page = chromium(Path(profile.name))
        cls.addClassCleanup(cls.page.quit)
        cls.page.set_script_timeout(60)
        cls.page.get(f"http://127.0.0.1:{server.server_port}/")

    def setUp(self) -> None:
        self.handler.answers = self.answers = Answers()

    def run_js(self, body: str, *given: object) -> Any:
        """What an asynchronous body gives, with the modules as `m` and its arguments as `given`."""
        script = f"""
            const done = arguments[arguments.length - 1];
            const given = [...arguments].slice(0, -1);
            import("/modules.js").then(async (m) => {{ {body} }})
              .then((found) => done({{ found: found ?? null }}),
                    (error) => done({{ error: String(error.stack) }}));
        """
        answer = self.page.execute_async_script(script, *given)
        if "error" in answer:
            self.fail(answer["error"])
        return answer["found"]
