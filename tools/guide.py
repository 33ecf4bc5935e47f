"""The pages of docs/guide, made from the walks that the interface shows and the tests play: `python
tools/guide.py` writes them; with --check it changes nothing, and fails where they are not as they should
be."""

from __future__ import annotations

import json
import sys
from pathlib import Path
from typing import Any

ROOT = Path(__file__).resolve().parents[1]
WALKS = ROOT / "web/src/guide/walks.json"
PAGES = ROOT / "docs/guide"


def pages() -> dict[str, str]:
    """Every page by its name."""
    walks: list[dict[str, Any]] = json.loads(WALKS.read_text(encoding="utf-8"))
    index = "".join(f"- [{walk['title']}]({walk['key']}.md): {walk['about']}\n" for walk in walks)
    made = {"README.md": f"# Guide\n\nEach walk is played by a test in the browser.\n\n{index}"}
    for walk in walks:
        says = [step["say"] for step in walk["steps"] if "say" in step]
        lines = "".join(f"{k}. {say}\n" for k, say in enumerate(says, 1))
        about = f"{walk['about']} {_actions(walk)} presses and fields."
        made[f"{walk['key']}.md"] = f"# {walk['title']}\n\n{about}\n\n{lines}"
    return made


def _actions(walk: dict[str, Any]) -> int:
    """How many presses and typings it takes: all that is no look at what is shown."""
    return sum(not step.keys() & {"see", "figure", "verdict"} for step in walk["steps"])


def main() -> int:
    wrong = [name for name, text in pages().items() if _read(PAGES / name) != text]
    if "--check" in sys.argv:
        if wrong:
            print(
                f"docs/guide is out of date ({', '.join(wrong)}): run python tools/guide.py", file=sys.stderr
            )
        return int(bool(wrong))
    for name in wrong:
        (PAGES / name).write_text(pages()[name], encoding="utf-8")
    return 0


def _read(file: Path) -> str:
    return file.read_text(encoding="utf-8") if file.exists() else ""


if __name__ == "__main__":
    sys.exit(main())
