"""The book of proof: every figure held against published values and other libraries."""

from __future__ import annotations

import argparse
import json
import sys
from typing import Any

from rich.console import Console

from metaspira.problems import Problem, RecipeError, suggested
from metaspira.verification import STANDINGS, Row, families, rows_of


def add_to(parser: argparse.ArgumentParser) -> None:
    """Add its arguments."""
    parser.add_argument("family", nargs="*", help=f"some of {', '.join(families())}; all where none is named")
    parser.add_argument("--figure", help="only rows of this figure, such as rate")
    parser.add_argument("--json", action="store_true")


def run(options: argparse.Namespace) -> int:
    """Calculate and show them; the exit status is 1 where a row is beyond what is allowed."""
    known = families()
    for name in options.family:
        if name not in known:
            remedy = suggested(name, known, f"name some of {', '.join(known)}")
            raise RecipeError(Problem("", f"“{name}” is no family of cases", remedy))
    console = Console(highlight=False, soft_wrap=True)
    found: dict[str, list[Row]] = {}
    missing = []
    for name in options.family or known:
        try:
            with Console(stderr=True).status(f"{name}"):
                rows = [row for row in rows_of(name) if not options.figure or row.holds(options.figure)]
        except ModuleNotFoundError as error:
            missing.append(f"{name}: not calculated, {error.name} is missing; pip install 'metaspira[solid]'")
            continue
        if rows:
            found[name] = rows
        if rows and not options.json:
            console.print(f"\n[bold]{known[name]}[/]")
            for row in rows:
                console.print(_line(row))
    if options.figure and not found:
        raise RecipeError(Problem("", f"no row holds “{options.figure}”", "see “metaspira verify --json”"))
    if options.json:
        told = [_told(name, k, row) for name in found for k, row in enumerate(found[name], 1)]
        print(json.dumps(told, ensure_ascii=False, indent=1))
    else:
        _sum_up(console, [row for rows in found.values() for row in rows], len(found))
    for words in missing:
        print(f"metaspira: {words}", file=sys.stderr)
    return 0 if all(row.within for rows in found.values() for row in rows) else 1


def _told(family: str, number: int, row: Row) -> dict[str, Any]:
    return {
        "id": f"{family}-{number}",
        "family": family,
        "figures": row.figures,
        "source": row.source,
        "standing": row.standing,
        "case": row.case,
        "reference": row.value,
        "ours": row.ours,
        "difference": row.off,
        "allowed": row.allowed,
        "unit": row.unit,
        "ok": row.within,
    }


def _line(row: Row) -> str:
    mark = "[green]●[/]" if row.within else "[red]■[/]"
    unit = f" {row.unit}" if row.unit else ""
    return (
        f"{mark} {row.case}: {row.ours:.8g}{unit}, there {row.value:.8g}; off {row.off:.2g}, "
        f"{row.allowed:.2g} allowed. [dim]{row.source}[/]"
    )


def _sum_up(console: Console, rows: list[Row], count: int) -> None:
    within = sum(row.within for row in rows)
    console.print(f"\n{len(rows)} rows in {count} families: {within} within, {len(rows) - within} beyond.")
    for standing, words in STANDINGS.items():
        console.print(f"  {sum(row.standing == standing for row in rows):4} {words}")
