"""The command line: `metaspira COMMAND`. A new command is one module in `commands`; only the one that is
called is imported.

Exit status: 0 clear or watch; 1 a check says stop; 2 unusable input, told in one line on standard error.
"""

from __future__ import annotations

import argparse
import importlib
import sys
from pathlib import Path
from typing import NoReturn

from metaspira.blas import on_one_thread
from metaspira.problems import Interrupted, Problem, RecipeError

_COMMANDS = Path(__file__).parent / "commands"


class _Parser(argparse.ArgumentParser):
    def error(self, message: str) -> NoReturn:
        _refuse(Problem("", message, f"see “{self.prog} --help”"))


def main(arguments: list[str] | None = None) -> None:
    """Run the command line and exit."""
    on_one_thread()
    given = sys.argv[1:] if arguments is None else arguments
    try:
        options = _parser(given).parse_args(given)
        sys.exit(importlib.import_module(f"{__name__}.commands.{options.command}").run(options))
    except RecipeError as error:
        _refuse(*error.problems)
    except Interrupted:
        _refuse(Problem("", "a process that worked on it was stopped", "start it again, with less at once"))
    except BrokenPipeError:
        sys.exit(0)
    except OSError as error:
        named = "" if error.filename is None else f"{error.filename}: "
        _refuse(Problem("", f"{named}{error.strerror or error}", "name a file or folder that can be used"))


def known() -> dict[str, str]:
    """What each command does, in the first line of its module."""
    files = sorted(file for file in _COMMANDS.glob("*.py") if file.stem != "__init__")
    return {file.stem: file.read_text(encoding="utf-8").split('"""')[1].split("\n")[0] for file in files}


def _parser(given: list[str]) -> argparse.ArgumentParser:
    """The arguments of the command that is called, and the names of all."""
    parser = _Parser(prog="metaspira", description="Springs, coils and twisted parts from recipes.")
    parsers = parser.add_subparsers(dest="command", required=True, parser_class=_Parser)
    for name, does in known().items():
        command = parsers.add_parser(name, help=does.rstrip("."), description=does)
        if given[:1] == [name]:
            importlib.import_module(f"{__name__}.commands.{name}").add_to(command)
    return parser


def _refuse(*problems: Problem) -> NoReturn:
    """One line on standard error, and exit status 2."""
    more = f" (and {len(problems) - 1} more)" if len(problems) > 1 else ""
    print(f"metaspira: {problems[0].line()}{more}", file=sys.stderr)
    sys.exit(2)
