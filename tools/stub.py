"""What the library holds, for type checkers: `python tools/stub.py` writes core/metaspira/__init__.pyi; with
--check it changes nothing, and fails where it is not as it should be."""

from __future__ import annotations

import sys
from pathlib import Path

from metaspira import library
from metaspira.recipe.kinds import kinds

FILE = Path(__file__).resolve().parents[1] / "core/metaspira/__init__.pyi"


def main() -> int:
    names = [("metaspira.library", name) for name in library.__all__]
    names += [(kind.__module__, name) for name, kind in kinds().items()]
    lines = [f"from {module} import {name} as {name}" for module, name in sorted(names)]
    made = "\n".join(["# Made by tools/stub.py.", *lines, "", "__version__: str", ""])
    if "--check" not in sys.argv:
        FILE.write_text(made, encoding="utf-8")
    elif FILE.read_text(encoding="utf-8") != made:
        print("core/metaspira/__init__.pyi is out of date: run python tools/stub.py", file=sys.stderr)
        return 1
    return 0


if __name__ == "__main__":
    sys.exit(main())
