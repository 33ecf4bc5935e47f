"""The command line: `metaspira COMMAND`. A new command is one module and one line in COMMANDS.

Exit status: 0 clear or watch; 1 a check says stop; 2 unusable input, told in one line on standard error.
"""

from __future__ import annotations

import argparse
import sys
from typing import NoReturn

from metaspira.cli import (
    batch,
    building,
    checking,
    coiling,
    comparing,
    drawing,
    outlines,
    running,
    section,
    springs,
    surveying,
    threads,
    weighing,
)
from metaspira.cli.common import refuse
from metaspira.problems import Problem, RecipeError

COMMANDS = (
    checking,
    weighing,
    building,
    surveying,
    running,
    comparing,
    threads,
    springs,
    section,
    outlines,
    coiling,
    drawing,
    batch,
)


class _Parser(argparse.ArgumentParser):
    def error(self, message: str) -> NoReturn:
        refuse(Problem("", message, f"see “{self.prog} --help”"))


def main(arguments: list[str] | None = None) -> None:
    """Run the command line and exit."""
    options = _parser().parse_args(arguments)
    try:
        sys.exit(options.run(options))
    except RecipeError as error:
        refuse(*error.problems)
    except BrokenPipeError:
        sys.exit(0)


def _parser() -> argparse.ArgumentParser:
    parser = _Parser(prog="metaspira", description="Springs, coils and twisted parts from recipes.")
    commands = parser.add_subparsers(dest="command", required=True, parser_class=_Parser)
    for command in COMMANDS:
        command.add_to(commands)
    return parser
