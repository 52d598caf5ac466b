"""What ships is listed with its licence, and goes with MIT."""

import importlib.metadata
import json
import re
import unittest
from pathlib import Path

from packaging.requirements import Requirement
from packaging.utils import canonicalize_name

ROOT = Path(__file__).parent.parent
# Licences of the packages themselves; each goes with MIT
GOOD = {
    "0BSD", "Apache-2.0", "BSD-2-Clause", "BSD-3-Clause", "CC0-1.0", "MIT", "MIT-CMU",
    "MPL-2.0", "OFL-1.1", "PSF-2.0", "Unlicense", "Zlib",
}  # fmt: skip
SPDX = re.compile(r"[A-Za-z0-9.+-]+")


def listed() -> dict[str, str]:
    """Licence of each package that THIRD-PARTY.md names."""
    text = (ROOT / "THIRD-PARTY.md").read_text()
    packages = text.split("Data sets:")[0]
    rows = re.findall(r"^\| ([@\w./-]+) \| ([^|]+) \| [^|]+ \|$", packages, re.M)
    return {name: licence.strip() for name, licence in rows if name != "package"}


def parts(expression: str) -> set[str]:
    """The licences in an SPDX expression, without its words."""
    return {
        word for word in SPDX.findall(re.sub(r"WITH \S+", "", expression))
        if word not in ("AND", "OR")
    }  # fmt: skip


def of_the_cluster() -> set[str]:
    """The packages that the extra silvrin[cluster] brings."""
    found: set[str] = set()
    asked = ["distributed"]
    while asked:
        name = asked.pop()
        if name not in found:
            found.add(name)
            for wanted in map(Requirement, importlib.metadata.requires(name) or []):
                if wanted.marker is None or wanted.marker.evaluate({"extra": ""}):
                    asked.append(canonicalize_name(wanted.name))
    return found


class LicenceTest(unittest.TestCase):
    def test_every_package_at_run_time_is_listed_with_its_own_licence(self) -> None:
        locked = (ROOT / "requirements.lock").read_text()
        names = re.findall(r"^([A-Za-z0-9_.-]+)==", locked, re.M)
        self.assertGreater(len(names), 25)
        known = listed()
        for name in names:
            with self.subTest(name):
                self.assertIn(name, known)
                facts = importlib.metadata.metadata(name)
                said = facts.get("License-Expression")
                if said:
                    self.assertEqual(known[name], said)
                classifiers = " ".join(facts.get_all("Classifier") or [])
                copyleft = f"{said or ''} {facts.get('License') or ''} {classifiers}"[:400]
                self.assertNotRegex(copyleft, r"(?<!L)GPL|(?<!Lesser )General Public License v")
                self.assertLessEqual(parts(known[name]), GOOD)

    def test_every_package_of_the_cluster_is_listed_with_its_own_licence(self) -> None:
        known, found = listed(), of_the_cluster()
        for name in found:
            facts = importlib.metadata.metadata(name)
            said = facts.get("License-Expression") or facts.get("License") or ""
            with self.subTest(name):
                self.assertIn(name, known)
                self.assertLessEqual(parts(known[name]), GOOD)
                if facts.get("License-Expression"):
                    self.assertEqual(known[name], said)
                classifiers = " ".join(facts.get_all("Classifier") or [])
                self.assertNotRegex(f"{said[:400]} {classifiers}", r"(?<!L)GPL")
        self.assertGreater(len(found), 15)

    def test_every_package_of_the_interface_is_listed(self) -> None:
        packages = json.loads((ROOT / "frontend" / "package-lock.json").read_text())["packages"]
        known = listed()
        for path, package in packages.items():
            name = path.rpartition("node_modules/")[2]
            if not path or package.get("dev") or name.startswith("@types/"):
                continue
            with self.subTest(name):
                self.assertEqual(known.get(name), package["license"])
                self.assertLessEqual(parts(package["license"]), GOOD)

    def test_nothing_is_listed_that_does_not_ship(self) -> None:
        locked = (ROOT / "requirements.lock").read_text()
        packages = json.loads((ROOT / "frontend" / "package-lock.json").read_text())["packages"]
        ships = {*re.findall(r"^([A-Za-z0-9_.-]+)==", locked, re.M)}
        ships |= of_the_cluster()
        ships |= {path.rpartition("node_modules/")[2] for path in packages}
        self.assertEqual(set(listed()) - ships, set())


if __name__ == "__main__":
    unittest.main()
