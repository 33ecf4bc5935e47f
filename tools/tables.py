"""The tables of kinds, of files and of checks in docs/recipe.md, and those of docs/figures.md, made from the
core: `python tools/tables.py` writes them between their marks; with --check it changes nothing, and fails
where they are not as they should be."""

from __future__ import annotations

import re
import sys
from pathlib import Path
from typing import Any

from metaspira.checks import questions
from metaspira.numbers.figure import Said
from metaspira.outputs import outputs
from metaspira.recipe.model import json_schema
from metaspira.views.figures import FAMILIES

DOCS = Path(__file__).resolve().parents[1] / "docs"
_MARK = re.compile(r"(<!-- kinds: (\w+)\.(\w+) -->\n).*?(<!-- end -->)", re.DOTALL)
_OUTPUTS = re.compile(r"(<!-- outputs -->\n).*?(<!-- end -->)", re.DOTALL)
_QUESTIONS = re.compile(r"(<!-- questions: (\w+) -->\n).*?(<!-- end -->)", re.DOTALL)
_FIGURES = re.compile(r"(<!-- figures -->\n).*?(<!-- end -->)", re.DOTALL)
_SCHEMA = json_schema()["$defs"]


def main() -> int:
    found = [_made(DOCS / name) for name in ("recipe.md", "figures.md")]
    return max(found)


def _made(file: Path) -> int:
    text = file.read_text(encoding="utf-8")
    made = _MARK.sub(lambda mark: mark[1] + _table(mark[2], mark[3]) + mark[4], text)
    made = _QUESTIONS.sub(lambda mark: mark[1] + _asked(mark[2]) + mark[3], made)
    made = _OUTPUTS.sub(lambda mark: mark[1] + _files() + mark[2], made)
    made = _FIGURES.sub(lambda mark: mark[1] + _families() + mark[2], made)
    if "--check" not in sys.argv:
        file.write_text(made, encoding="utf-8")
    elif made != text:
        print(f"docs/{file.name} is out of date: run python tools/tables.py", file=sys.stderr)
        return 1
    return 0


def _families() -> str:
    """Every family of figures, a table each."""
    lines: list[str] = []
    for title, figures in FAMILIES.values():
        lines += [f"\n## {title}\n", "| figure | key | unit | formula | from | source |", "| --- " * 6 + "|"]
        for one in figures:
            name = f"{one.title}, {one.symbol}" if one.symbol else one.title
            said = (_cell(text) for text in (one.formula, one.inputs, one.source))
            lines.append(f"| {name} | `{one.key}` | {one.unit} | {' | '.join(said)} |")
    return "\n".join([*lines, ""])


def _cell(text: Said) -> str:
    return text.replace("|", "\\|") if isinstance(text, str) else "*by what it is of*"


def _table(model: str, field: str) -> str:
    """The kinds that a field of a model may hold: a row each."""
    rows = [_row(_resolved(branch)) for branch in _union(_SCHEMA[model]["properties"][field])]
    return "\n".join(["| kind | is | keys |", "| --- | --- | --- |", *rows, ""])


def _files() -> str:
    """What a part can become: a row each."""
    rows = [
        f"| `{one.key}` | {one.what} | {one.title} | {one.use} | `{one.media}` |"
        for one in outputs().values()
    ]
    return "\n".join(["| ends in | is | as | for | type |", "| --- | --- | --- | --- | --- |", *rows, ""])


def _asked(told: str) -> str:
    """The questions that are asked of one sort of part: a row each, of springs with the kinds that they are
    asked of."""
    found = [one for one in questions() if one.told == told]
    several = any(one.kinds for one in found)
    head = ["check", *(["of"] if several else []), "asks", "stops", "watches"]
    rows = [
        [f"`{one.id}`", *([one.kinds] if several else []), one.asks, one.stops, one.watches] for one in found
    ]
    lines = [f"| {' | '.join(row)} |" for row in (head, ["---"] * len(head), *rows)]
    return "\n".join([*lines, ""])


def _row(kind: dict[str, Any]) -> str:
    names = list(kind["properties"])
    own = names[names.index("kind") + 1 :]
    keys = ", ".join(_key(name, kind["properties"][name], name in kind.get("required", [])) for name in own)
    about = " ".join(kind["description"].split())
    return f"| `{kind['properties']['kind']['const']}` | {about} | {keys} |"


def _key(name: str, field: dict[str, Any], required: bool) -> str:
    choices = [one for found in _branches(field) for one in found.get("enum", [])]
    default = field.get("default")
    said = [", ".join(f"`{one}`" + (" (usual)" if one == default else "") for one in choices)]
    if not required and default not in choices:
        said.insert(0, _default(default))
    said.append(field.get("description", ""))
    told = "; ".join(each for each in said if each)
    return f"`{name}`" + (f" ({told})" if told else "")


def _default(value: Any) -> str:
    if value in (None, [], {}):
        return "optional"
    return f"{value:g} where left out" if isinstance(value, int | float) and value is not False else "no"


def _union(field: dict[str, Any]) -> list[dict[str, Any]]:
    found = next(one for one in (field, field.get("items", {}), *_branches(field)) if "oneOf" in one)
    branches: list[dict[str, Any]] = found["oneOf"]
    return branches


def _branches(field: dict[str, Any]) -> list[dict[str, Any]]:
    return [_resolved(one) for one in field.get("anyOf", [field])]


def _resolved(node: dict[str, Any]) -> dict[str, Any]:
    found: dict[str, Any] = _SCHEMA[node["$ref"].rpartition("/")[2]] if "$ref" in node else node
    return found


if __name__ == "__main__":
    sys.exit(main())
