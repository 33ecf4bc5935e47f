"""The coiling table of a wire former, tried on a simulated one."""

from __future__ import annotations

import argparse
import json
from pathlib import Path as FilePath

from rich.console import Console
from rich.table import Table

from metaspira.cli.common import demand_suffix, write
from metaspira.cli.typed import finite
from metaspira.coiling.table import coiling_table, csv_of
from metaspira.devices.former import SIMULATED, designed, wind
from metaspira.parts import Part, make_part
from metaspira.problems import Problem, RecipeError
from metaspira.recipe.reading import read_recipe_file


def add_to(parser: argparse.ArgumentParser) -> None:
    """Add its arguments."""
    parser.add_argument("file", type=FilePath)
    parser.add_argument("-o", "--output", type=FilePath, help="the table, .csv")
    parser.add_argument("--seed", type=int, default=1, help="of the simulated former's scatter")
    parser.add_argument(
        "--scatter", type=finite, default=0.02, help="standard deviation of the flow stress, a share"
    )
    parser.add_argument("--json", action="store_true")


def run(options: argparse.Namespace) -> int:
    if options.output is not None:
        demand_suffix(options.output, [".csv"])
    if not 0 <= options.scatter <= 0.2 or options.seed < 0:
        raise RecipeError(Problem("--scatter", "the scatter or the seed is out of range", "use 0.02, and 1"))
    part = make_part(read_recipe_file(options.file))
    table = coiling_table(part)
    assert isinstance(part, Part)
    if options.output is not None:
        write(options.output, csv_of(part, table).encode())
    meant, measured = designed(part).figures, wind(table, options.seed, options.scatter).figures
    if options.json:
        told = {
            "rows": table.rows.tolist(),
            "simulated": SIMULATED,
            "design": meant,
            "measured": measured,
        }
        print(json.dumps(told, indent=1))
        return 0
    shown = Table("figure", "design", f"measured ({SIMULATED})", box=None)
    for name, value in measured.items():
        shown.add_row(name.replace("_", " "), f"{meant[name]:.6g}", f"{value:.6g}")
    Console().print(shown)
    return 0
