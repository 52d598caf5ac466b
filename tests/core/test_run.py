"""Work that somebody waits for goes before work behind it."""

import os
import subprocess
import sys
import threading
import time
import unittest

from silvrin.core.kernels.run import NICE, at_once, behind, first


class GivingWayTest(unittest.TestCase):
    def setUp(self) -> None:
        self.steps: list[str] = []
        self.go = threading.Event()

    def work_behind(self) -> None:
        with behind():
            self.go.wait()
            at_once(lambda: self.steps.append("behind"))

    def test_it_waits_until_nobody_waits_for_anything(self) -> None:
        other = threading.Thread(target=self.work_behind)
        other.start()
        with first():
            self.go.set()
            for _ in range(3):
                at_once(lambda: self.steps.append("first"))
                time.sleep(0.05)
        other.join(10)
        self.assertEqual(self.steps, ["first"] * 3 + ["behind"])

    @unittest.skipUnless(sys.platform == "linux", "threads have a priority of their own on Linux")
    def test_threads_that_all_share_stay_as_they_are(self) -> None:
        """In a process of its own, whose first work is behind."""
        code = """
import os, threading, numpy as np, cv2
from pathlib import Path
from silvrin.core.kernels.run import at_once, behind
def work():
    with behind():
        cv2.resize(np.zeros((1000, 1000), np.float32), (600, 600), interpolation=cv2.INTER_CUBIC)
        own = threading.get_native_id()
        tasks = {int(task.name) for task in Path("/proc/self/task").iterdir()}
        nice = {task: os.getpriority(os.PRIO_PROCESS, task) for task in tasks}
        print(nice.pop(own), max(nice.values()))
worker = threading.Thread(target=work)
worker.start()
worker.join()
"""
        said = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True)
        own = os.getpriority(os.PRIO_PROCESS, 0)
        self.assertEqual(said.stdout.split(), [str(max(NICE, own)), str(own)], said.stderr)

    def test_one_that_fails_holds_nobody_up(self) -> None:
        with self.assertRaises(ValueError), first():
            raise ValueError
        self.go.set()
        other = threading.Thread(target=self.work_behind)
        other.start()
        other.join(1.0)  # s, with what is lingered for
        self.assertEqual(self.steps, ["behind"])


if __name__ == "__main__":
    unittest.main()
