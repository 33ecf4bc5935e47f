"""The record of the book of proof and its page, docs/verification.md: `python tools/verification.py` writes
both of rows that it calculates. With --check it changes nothing, and fails where the page is not the record's
(a test holds the record against rows that are calculated anew)."""

from __future__ import annotations

import itertools
import re
import sys
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
PAGE = ROOT / "docs/verification.md"
MUTANTS = ROOT / "docs/verification-mutants.md"
sys.path.insert(0, str(ROOT / "core"))

from metaspira.verification import STANDINGS, families, rows_of  # noqa: E402
from metaspira.verification.record import RECORD, Family, as_json, recorded  # noqa: E402


def page(found: tuple[Family, ...]) -> str:
    """The page of the rows."""
    rows = [row for family in found for row in family.rows]
    standings = "".join(
        f"| {sum(row.standing == one for row in rows)} | {words} |\n" for one, words in STANDINGS.items()
    )
    index = "".join(f"| [{one.title}](#{one.name}) | {len(one.rows)} |\n" for one in found)
    return f"""# The book of proof

Made by `python tools/verification.py`; `metaspira verify` calculates every row anew where it is installed,
and ends with 1 where one is beyond what is allowed. Random bodies against exact booleans, 20,000 of them:
[verification-gaps.md](verification-gaps.md). Scans traced back:
[verification-tracing.md](verification-tracing.md). The tests against code that was broken on purpose,
{_killed()}: [verification-mutants.md](verification-mutants.md).

{len(rows)} rows, {sum(row.within for row in rows)} of them within what is allowed. What the other value is:

| rows | the other value is |
| ---: | --- |
{standings}
| family | rows |
| --- | ---: |
{index}
{"".join(_section(one) for one in found)}"""


def _killed() -> str:
    """The share that was found, as its own page says it."""
    said = re.search(r"\*\*(.+?)\*\*", MUTANTS.read_text(encoding="utf-8"))
    assert said is not None, f"{MUTANTS} does not say how many were found"
    return said[1].removesuffix(".")


def _section(family: Family) -> str:
    lines = [f'<a id="{family.name}"></a>\n## {family.title}\n']
    for source, group in itertools.groupby(family.rows, key=lambda row: (row.source, row.standing)):
        lines.append(f"\n{_cell(source[0])} ({STANDINGS[source[1]]})\n")
        lines.append("| case | there | ours | off | allowed | |\n| --- | ---: | ---: | ---: | ---: | --- |")
        for row in group:
            numbers = f"{row.value:.8g} | {row.ours:.8g} | {row.off:.1e} | {row.allowed:.1e}"
            lines.append(f"| {_cell(row.case)} | {numbers} | {row.unit} |")
    return "\n".join(lines) + "\n\n"


def _cell(text: str) -> str:
    return text.replace("|", "\\|")


def main() -> int:
    if "--check" in sys.argv:
        same = PAGE.read_text(encoding="utf-8") == page(recorded())
        if not same:
            print("docs/verification.md is out of date: run python tools/verification.py", file=sys.stderr)
        return int(not same)
    found = tuple(Family(name, title, tuple(rows_of(name))) for name, title in families().items())
    RECORD.write_text(as_json(found), encoding="utf-8")
    recorded.cache_clear()
    PAGE.write_text(page(recorded()), encoding="utf-8")
    beyond = [row for family in found for row in family.rows if not row.within]
    for row in beyond:
        print(f"beyond: {row.case}: {row.ours:.8g}, there {row.value:.8g}", file=sys.stderr)
    return int(bool(beyond))


if __name__ == "__main__":
    sys.exit(main())
