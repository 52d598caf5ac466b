import json
from datetime import datetime, timedelta

from hypothesis import given, settings
from hypothesis import strategies as st

from silvrin.files.metadata import Metadata
from silvrin.store import captures, merging, rolls
from silvrin.store.captures import Capture
from silvrin.store.contact_sheet import ContactSheet, contact_sheet_json
from tests.store.test_library import WithLibrary

NOON = datetime(2024, 6, 21, 12)


class ContactSheetTest(WithLibrary):
    def take(self, name: str, title: str, kind: str = "raw", **facts) -> int:
        with self.library.database.write() as connection:
            return self.take_in(connection, name, title, kind, **facts)

    def take_in(self, connection, name: str, title: str, kind: str = "raw", **facts) -> int:
        sha256 = f"{hash((name, title)) & (2**64 - 1):064x}"
        new = Capture(
            sha256=sha256, file_name=name, suffix=".dng", kind=kind, bytes=1, width=60, height=40,
            scale=1.0, metadata=Metadata(**facts).model_dump_json(),
        )  # fmt: skip
        captures.add_capture(connection, new)
        return rolls.add_frame(connection, self.roll, sha256, title)

    def sheet(self, search: str = "", order: str = "number") -> ContactSheet:
        text = contact_sheet_json(self.library.database.read, self.roll, search, order)
        return ContactSheet.model_validate_json(text)

    def test_found_by_all_words_in_every_order(self) -> None:
        bright = {"shutter": 1 / 500, "aperture": 16.0, "sensitivity": 100}  # EV 17
        dim = {"shutter": 1 / 8, "aperture": 2.8, "sensitivity": 400}  # EV 4
        c = self.take("C.dng", "Ärger am Kiln", taken="2024-06-01T10:00:00", **dim)
        a = self.take("a.dng", "Loft", camera="Quarrywood V", lens="Plain 50", **bright)
        b = self.take("B.dng", "Jug", taken="2023-01-01T10:00:00")
        for order, frames in (
            ("number", [c, a, b]), ("time", [b, c, a]), ("name", [a, b, c]), ("exposure", [c, a, b])
        ):  # fmt: skip
            with self.subTest(order=order):
                self.assertEqual(self.sheet(order=order).frames, frames)
        for search, frames in (
            ("ärger KILN", [c]), ("quarry plain", [a]), ("quarry jug", []), ("2023-01", [b]),
            ("%", []), (".dng", [c, a, b]),
        ):  # fmt: skip
            with self.subTest(search=search):
                self.assertEqual(self.sheet(search).frames, frames)

        with self.library.database.write() as connection:
            rolls.mark_frame(connection, a, "ring")
            rolls.mark_frame(connection, b, "cross")
            rolls.bin_frames(connection, [c])
            captures.set_place(connection, rolls.frame(connection, a).sha256, "/card/a.dng", 1)
            captures.set_lost(connection, rolls.frame(connection, a).sha256, "2026-01-01")
        self.assertEqual(
            self.sheet(),
            ContactSheet(frames=[a, b], marks=[1, 3], lost=1, lost_place="/card/a.dng"),
        )
        known = json.loads(rolls.some_frames_json(self.library.database.read, [b, 999, a]))
        self.assertEqual([f["id"] for f in known], [a, b])
        self.assertEqual(
            known, json.loads(rolls.frames_json(self.library.database.read, self.roll))
        )

    def test_a_frame_that_shows_another_capture_is_found_by_that(self) -> None:
        frame = self.take("a.dng", "Loft", camera="Quarrywood V")
        other = self.take("b.dng", "Jug", camera="Fernlea")
        with self.library.database.write() as connection:
            rolls.show_capture(connection, frame, rolls.frame(connection, other).sha256)
        self.assertEqual(self.sheet("quarrywood").frames, [])
        self.assertEqual(self.sheet("loft fernlea").frames, [frame])

    @settings(max_examples=60)
    @given(
        st.lists(
            st.tuples(
                st.sampled_from([0, 1, 15, 25]),  # seconds after the one before
                st.sampled_from([1 / 1000, 1 / 250, 1 / 60]),
                st.sampled_from([4.0, 8.0]),
                st.sampled_from(["Fernlea", "Quarrywood V"]),
                st.sampled_from(["raw", "raw", "merged"]),
            ),
            max_size=12,
        )
    )
    def test_brackets_by_the_database_are_those_of_the_whole_roll(self, shots) -> None:
        with self.library.database.write() as connection:
            connection.execute("DELETE FROM frames")
            connection.execute("DELETE FROM captures")
            at = NOON
            for i, (after, shutter, aperture, camera, kind) in enumerate(shots):
                at += timedelta(seconds=after)
                self.take_in(
                    connection, f"{i}.dng", f"F{i}", kind, taken=at.isoformat(), shutter=shutter,
                    aperture=aperture, sensitivity=100, camera=camera,
                )  # fmt: skip
            own = [f for f in rolls.frames_of(connection, self.roll) if f.kind != "merged"]
            whole = merging.brackets_of([(f.id, f.width, f.height, f.metadata) for f in own])
            self.assertEqual(merging.find_brackets(connection, self.roll), whole)
