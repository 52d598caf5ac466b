import ast
import unittest
from pathlib import Path

import silvrin

ROOT = Path(silvrin.__file__).parent
# PIL draws letters
ALLOWED = {"numpy", "scipy", "numba", "cv2", "pydantic", "pydantic_core", "PIL"}


class RoomsTest(unittest.TestCase):
    def test_core_knows_no_interface_no_sql_and_no_files(self) -> None:
        import sys

        for module in (ROOT / "core").rglob("*.py"):
            depth = len(module.relative_to(ROOT).parts)
            for node in ast.walk(ast.parse(module.read_text())):
                if isinstance(node, ast.ImportFrom) and node.level:
                    inside = node.level < depth or node.module == "errors"
                    self.assertTrue(inside, f"{module}: from {'.' * node.level}{node.module}")
                    continue
                names = [node.module or ""] if isinstance(node, ast.ImportFrom) else []
                names += [a.name for a in node.names] if isinstance(node, ast.Import) else []
                for name in names:
                    top = name.split(".")[0]
                    self.assertNotIn(top, {"sqlite3", "pathlib"}, module)
                    self.assertTrue(top in ALLOWED or top in sys.stdlib_module_names, (module, top))


if __name__ == "__main__":
    unittest.main()
