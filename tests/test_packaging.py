"""What ships: the application without the demo's captures."""

import tomllib
import unittest
from pathlib import Path

ROOT = Path(__file__).parents[1]
MOST = 15e6  # bytes of the application's wheel, not packed


class PackagingTest(unittest.TestCase):
    def test_the_application_is_small_and_the_demo_a_package_of_its_own(self) -> None:
        files = (p for p in (ROOT / "silvrin").rglob("*") if p.is_file())
        size = sum(p.stat().st_size for p in files if "__pycache__" not in p.parts)
        self.assertLess(size, MOST)
        project = tomllib.loads((ROOT / "pyproject.toml").read_text())
        demo = tomllib.loads((ROOT / "packaging/demo/pyproject.toml").read_text())
        wheel = project["tool"]["hatch"]["build"]["targets"]["wheel"]
        self.assertNotIn("force-include", wheel)
        name, version = demo["project"]["name"], demo["project"]["version"]
        self.assertEqual(
            project["project"]["optional-dependencies"]["demo"], [f"{name}=={version}"]
        )
        (captures,) = demo["tool"]["hatch"]["build"]["targets"]["wheel"]["force-include"]
        self.assertTrue((ROOT / "packaging/demo" / captures).resolve().is_dir())


if __name__ == "__main__":
    unittest.main()
