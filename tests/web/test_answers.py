"""Whatever is asked, the answer is one that was thought of."""

import asyncio
import json
import socket
import threading
import time
import unittest
from unittest import mock

import uvicorn
from fastapi.testclient import TestClient
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from silvrin.errors import SilvrinError
from silvrin.store import rolls
from silvrin.store.watch import look_after
from silvrin.web import connections, guard
from silvrin.web.app import create_app
from tests.store.test_library import picture_file
from tests.web.test_app import BINARY, HOST, WithServer

JSON = {"content-type": "application/json"}
SAFE = ("x-content-type-options", "content-security-policy", "referrer-policy")
BEYOND = (2**63, 10**30, -(10**20))


class AnswersTest(WithServer):
    def setUp(self) -> None:
        super().setUp()
        app = create_app(self.library)
        self.client = TestClient(app, base_url=f"http://{HOST}", raise_server_exceptions=False)
        self.addCleanup(self.client.close)

    def assert_problem(self, answer, *wanted: int) -> dict:
        said = answer.text[:300]
        self.assertIn(answer.status_code, wanted, said)
        self.assertEqual(answer.headers["content-type"], "application/problem+json", said)
        for name in SAFE:
            self.assertIn(name, answer.headers)
        body = answer.json()
        self.assertEqual(body["status"], answer.status_code)
        self.assertGreater(len(body["detail"]), 10)
        return body

    def test_what_fails_unforeseen_is_a_problem_too(self) -> None:
        with (
            mock.patch.object(rolls, "all_rolls", side_effect=ZeroDivisionError("of one")),
            self.assertLogs("silvrin.web.guard", "ERROR"),
        ):
            body = self.assert_problem(self.client.get("/api/rolls"), 500)
        self.assertIn("nothing was changed", body["detail"])
        self.assertNotIn("of one", json.dumps(body))
        self.assertEqual(self.client.get("/api/rolls").status_code, 200)

    def test_numbers_beyond_all_that_is_kept(self) -> None:
        for number in BEYOND:
            for path in ("frames", "prints", "imports", "merges", "deliveries"):
                self.assert_problem(self.client.get(f"/api/{path}/{number}"), 404, 422)
            several = self.client.get(f"/api/frames?ids={number}")
            if several.status_code != 200 or several.json():  # nothing is there under such a number
                self.assert_problem(several, 422)
            self.assert_problem(self.client.get(f"/api/rolls/{number}/sheet"), 404, 422)
            move = {"frames": [number], "roll_id": number}
            self.assert_problem(self.client.post("/api/frames/move", json=move), 404, 422)
            order = {"folder": str(self.folder), "roll_id": number}
            self.assert_problem(self.client.post("/api/imports", json=order), 404, 422)

    def test_odd_digits_paths_and_methods(self) -> None:
        self.assertEqual(
            self.client.get("/roll/²").status_code, 200
        )  # the page says it is not there
        self.assertEqual(self.client.get("/print/١٢").status_code, 200)
        self.assertEqual(self.client.get(f"/roll/{10**40}").status_code, 200)
        self.assert_problem(self.client.get("/api/rolls/²/sheet"), 422)
        self.assert_problem(self.client.get("/api/nothing"), 404)
        self.assert_problem(self.client.post("/api/nothing"), 404, 405)
        self.assert_problem(self.client.delete("/api/rolls"), 405)

    def test_odd_hosts(self) -> None:
        for host in ("[", "127.0.0.1:x", "", "localhost]", "::1", "[::1", "a" * 4000):
            self.assert_problem(self.client.get("/api/rolls", headers={"host": host}), 403)
        for host in ("127.0.0.1:8420", "localhost", "[::1]:8420"):
            answer = self.client.get("/api/rolls", headers={"host": host})
            self.assertEqual(answer.status_code, 200, host)

    def test_folders_that_are_none(self) -> None:
        for path in ("~nobody/x", "a\0b", "x" * 5000, "/" + "y" * 300, "pots", "/etc/passwd"):
            self.assert_problem(self.client.get("/api/folders", params={"path": path}), 422)
            if len(path) < 4096:
                order = {"folder": path}
                self.assert_problem(self.client.post("/api/imports", json=order), 422)
                self.assert_problem(self.client.post("/api/lost/find", json=order), 422)

    def test_bodies_are_bounded_whatever_they_are_called(self) -> None:
        large = b'{"name": "' + b"a" * guard.MOST_JSON + b'"}'
        for headers in (JSON, BINARY, {"content-type": "text/plain"}):
            self.assert_problem(self.client.post("/api/rolls", content=large, headers=headers), 413)
        for length in ("-1", "+1", "1e3", "9" * 40):
            headers = {**JSON, "content-length": length}
            answer = self.client.post("/api/rolls", content=b"{}", headers=headers)
            self.assert_problem(answer, 413)

    @settings(max_examples=60, suppress_health_check=list(HealthCheck))
    @given(
        path=st.sampled_from(("rolls", "imports", "merges", "frames/mark", "frames/bin")),
        body=st.recursive(
            st.none() | st.booleans() | st.floats() | st.integers() | st.text(max_size=9),
            lambda inner: (
                st.lists(inner, max_size=3)
                | st.dictionaries(
                    st.sampled_from(("name", "folder", "frames", "reference", "mark", "roll_id")),
                    inner,
                    max_size=4,
                )
            ),
            max_leaves=6,
        ),
    )
    def test_any_json(self, path: str, body: object) -> None:
        text = json.dumps(body).encode("utf-8", "replace")
        answer = self.client.post(f"/api/{path}", content=text, headers=JSON)
        if answer.status_code >= 300:
            self.assert_problem(answer, 400, 404, 409, 413, 422)

    def test_the_socket_hears_only_wishes(self) -> None:
        frame = self.frame()
        with self.client.websocket_connect(
            f"/api/live/{frame['id']}", headers={"host": HOST}
        ) as line:
            for send in (
                lambda: line.send_bytes(b"\x00\x01"),
                lambda: line.send_text("{"),
                lambda: line.send_text('{"seq": 1e300}'),
                lambda: line.send_text('{"seq": 1, "view": {"left": 1e300}}'),
                lambda: line.send_text("[]"),
            ):
                send()
                said = line.receive_json()
                self.assertEqual((said["status"], said["title"]), (422, "The recipe does not hold"))
        beyond = self.client.websocket_connect(f"/api/live/{2**70}", headers={"host": HOST})
        with beyond as line:
            self.assertIn(line.receive_json()["status"], (404, 422))


class NewsTest(WithServer):
    def test_an_open_window_hears_of_what_happens(self) -> None:
        card = self.folder / "card"
        card.mkdir()
        for number in range(4):
            picture_file(card, f"{number}.png", number)
        with (
            TestClient(create_app(self.library), base_url=f"http://{HOST}") as client,
            client.websocket_connect("/api/news", headers={"host": HOST}) as line,
        ):
            first = line.receive_json()
            self.assertEqual(
                (first["imports"], first["merges"], first["line"]["waiting"]), ([], [], 0)
            )

            def hear(done) -> dict:
                end = time.monotonic() + 5.0  # s within which it must be heard
                while time.monotonic() < end:
                    news = line.receive_json()
                    if done(news):
                        return news
                raise AssertionError("nothing was heard of it")

            order = {"folder": str(card), "keep": "refer"}
            client.post("/api/imports", json=order)
            news = hear(lambda n: n["imports"] and n["imports"][0]["state"] == "done")
            self.assertEqual(news["imports"][0]["taken"], 4)
            self.assertNotEqual(news["frames"], first["frames"])
            # an original is lost
            (card / "2.png").unlink()
            look_after(self.library.database)
            lost = hear(lambda n: n["frames"] != news["frames"])
            self.assertEqual(len(lost["imports"]), 1)
            # a delivery
            made = client.post("/api/frames/1/prints", json={"name": "P"}).json()
            order = {"prints": [made["id"]], "outputs": [{}]}
            client.post("/api/deliveries", json=order)
            told = hear(lambda n: n["line"]["finished"] == 1)
            self.assertGreater(told["line"]["version"], first["line"]["version"])
            self.assertEqual((told["line"]["running"], told["line"]["progress"]), (0, 1.0))
            # a merge that cannot be
            client.post("/api/merges", json={"frames": [1, 2], "reference": 1})
            failed = hear(lambda n: n["merges"] and n["merges"][0]["state"] == "failed")
            self.assertIn("shutter time", failed["merges"][0]["error"])
            client.delete(f"/api/merges/{failed['merges'][0]['id']}")
            hear(lambda n: n["merges"][0]["state"] == "cancelled")


class SilenceTest(WithServer):
    """Connections that say nothing, against a server of its own."""

    def setUp(self) -> None:
        super().setUp()
        for owner, name in ((connections, "HEADERS"), (guard, "SILENT")):
            change = mock.patch.object(owner, name, 0.6)
            change.start()
            self.addCleanup(change.stop)
        listener = socket.create_server(("127.0.0.1", 0))
        self.port = listener.getsockname()[1]
        config = uvicorn.Config(
            create_app(self.library), log_level="critical", http=connections.PromptProtocol
        )
        server = uvicorn.Server(config)
        thread = threading.Thread(
            target=lambda: asyncio.run(server.serve(sockets=[listener])), daemon=True
        )
        thread.start()
        self.addCleanup(thread.join)
        self.addCleanup(setattr, server, "should_exit", True)
        while not server.started:
            time.sleep(0.01)

    def ask(self, *parts: bytes, pause: float = 0.0) -> bytes:
        with socket.create_connection(("127.0.0.1", self.port), timeout=5.0) as line:
            try:
                for part in parts:
                    line.sendall(part)
                    time.sleep(pause)
            except OSError:
                return b""  # it was closed
            found = b""
            try:
                while part := line.recv(4096):
                    found += part
            except ConnectionResetError:
                pass
            return found

    def test_headers_that_never_end(self) -> None:
        began = time.monotonic()
        self.assertEqual(self.ask(b""), b"")
        self.assertLess(time.monotonic() - began, 3.0)
        drip = [b"GET / HTTP/1.1\r\n", *(b"x-a: %d\r\n" % i for i in range(12))]
        self.assertEqual(self.ask(*drip, pause=0.1), b"")  # however they drip

    def test_a_request_after_another_may_come_late(self) -> None:
        one = f"GET /api/rolls HTTP/1.1\r\nHost: 127.0.0.1:{self.port}\r\n\r\n".encode()
        last = one.replace(b"\r\n\r\n", b"\r\nConnection: close\r\n\r\n")
        self.assertEqual(self.ask(one, last, pause=0.3).count(b"200 OK"), 2)

    def test_an_upload_that_falls_silent(self) -> None:
        head = f"POST /api/rolls/{self.roll}/frames?name=a.png HTTP/1.1\r\n"
        head += f"Host: 127.0.0.1:{self.port}\r\nContent-Length: 9000\r\n\r\n"
        with mock.patch.object(guard, "LOOKS", 0.2):
            answer = self.ask(head.encode(), b"\x89PNG")
        self.assertTrue(answer.startswith(b"HTTP/1.1 408"), answer[:80])
        self.assertIn(b"nothing was kept", answer)
        self.assertEqual(self.files_of("incoming"), [])


class ErrorsTest(unittest.TestCase):
    def test_every_kind_has_a_status_and_a_title_of_its_own(self) -> None:
        def kinds(top: type[SilvrinError]) -> list[type[SilvrinError]]:
            return [top, *(k for below in top.__subclasses__() for k in kinds(below))]

        for kind in kinds(SilvrinError):
            self.assertTrue(400 <= kind.status < 600 and kind.title, kind)


if __name__ == "__main__":
    unittest.main()
