"""The command line: `metaspira check | build | thread | spring | section | schema`.

Exit status: 0 clear or watch; 1 a check says stop; 2 unusable input, told in one line on standard error.
"""

from __future__ import annotations

import argparse
import json
import sys
from collections.abc import Iterable
from datetime import date
from pathlib import Path as FilePath
from typing import NoReturn

from rich.console import Console
from rich.progress import BarColumn, Progress, TextColumn, TimeElapsedColumn
from rich.table import Table

from metaspira.checks import Check, Report, report_on, why_of, worst
from metaspira.checks.check import WHOLE
from metaspira.checks.springs import spring_checks_of
from metaspira.formats import FORMATS
from metaspira.formats.drawing import MAX_BYTES as MAX_DRAWING
from metaspira.formats.drawing import read_drawing
from metaspira.part import AnyPart, Part, make_part
from metaspira.problems import Problem, RecipeError
from metaspira.recipe.model import json_schema
from metaspira.recipe.reading import read_recipe_file
from metaspira.sheets import SHEETS
from metaspira.sheets.spring import spring_sheet
from metaspira.solids.building import (
    LEAST_CHORD_ERROR,
    MOST_CHORD_ERROR,
    BuildError,
    build_files,
)
from metaspira.spring_views import spring_view
from metaspira.springs.compared import compared
from metaspira.springs.compression import Compression
from metaspira.threads.finding import read_thread
from metaspira.threads.gauging import as_dict, gauging

_MARKS = {"clear": "[green]● clear[/]", "watch": "[yellow]▲ watch[/]", "stop": "[red]■ stop[/]"}


class _Parser(argparse.ArgumentParser):
    def error(self, message: str) -> NoReturn:
        _refuse(Problem("", message, f"see “{self.prog} --help”"))


def main(arguments: list[str] | None = None) -> None:
    """Run the command line and exit."""
    options = _parser().parse_args(arguments)
    try:
        sys.exit(options.run(options))
    except RecipeError as error:
        _refuse(*error.problems)
    except BrokenPipeError:
        sys.exit(0)


def _parser() -> argparse.ArgumentParser:
    parser = _Parser(prog="metaspira", description="Springs, coils and twisted parts from recipes.")
    commands = parser.add_subparsers(dest="command", required=True, parser_class=_Parser)
    check = commands.add_parser("check", help="figures and checks of a recipe")
    check.add_argument("file", type=FilePath)
    check.add_argument("--json", action="store_true")
    check.set_defaults(run=_check)
    build = commands.add_parser("build", help="check, build, prove and write a recipe's solid")
    build.add_argument("file", type=FilePath)
    build.add_argument("-o", "--output", type=FilePath, required=True)
    build.add_argument("--chord-error", type=float, help="of meshes, in mm")
    build.add_argument("--json", action="store_true")
    build.set_defaults(run=_build)
    thread = commands.add_parser("thread", help="basic sizes, limits and gauging of a standard thread")
    thread.add_argument("designation", nargs="+", help="as people write it, such as M10x1.25-6g")
    thread.add_argument("--json", action="store_true")
    thread.set_defaults(run=_thread)
    spring = commands.add_parser("spring", help="rate, loads, stresses and limits of a spring")
    spring.add_argument("file", type=FilePath)
    spring.add_argument("-o", "--output", type=FilePath, help="a data sheet, .html or .pdf")
    spring.add_argument("--json", action="store_true")
    spring.set_defaults(run=_spring)
    section = commands.add_parser("section", help="the loops of a DXF or SVG drawing, as a section")
    section.add_argument("file", type=FilePath)
    section.add_argument("--unit", choices=("mm", "cm", "m", "in"), help="where the drawing has none")
    section.set_defaults(run=_section)
    schema = commands.add_parser("schema", help="the JSON Schema of recipes")
    schema.set_defaults(run=_schema)
    return parser


def _check(options: argparse.Namespace) -> int:
    report = _report(options.file)
    if options.json:
        print(json.dumps(report.as_dict(), ensure_ascii=False, indent=1))
    else:
        _show(report)
    return 1 if report.verdict == "stop" else 0


def _build(options: argparse.Namespace) -> int:
    output: FilePath = options.output
    if output.suffix not in FORMATS:
        known = ", ".join(FORMATS)
        raise RecipeError(
            Problem("", f"“{output.name}” does not end in a format made here", f"use one of {known}")
        )
    if not output.parent.is_dir():
        raise RecipeError(Problem("", f"there is no folder {output.parent}", "make it first"))
    chord_error = options.chord_error
    if chord_error is not None and not LEAST_CHORD_ERROR <= chord_error <= MOST_CHORD_ERROR:
        raise RecipeError(
            Problem("", f"a chord error of {options.chord_error} mm is out of range", "use 0.01")
        )
    report = _report(options.file)
    answer = report.as_dict()
    if report.verdict == "stop":
        if options.json:
            print(json.dumps(answer, ensure_ascii=False, indent=1))
        else:
            _show(report)
        print("metaspira: a check says stop; nothing was written", file=sys.stderr)
        return 1
    try:
        proof = _with_progress(report.part, output, options.chord_error)
    except BuildError as error:
        raise RecipeError(Problem("", f"no solid: {error}", "nothing was written")) from None
    except OSError as error:
        raise RecipeError(
            Problem("", f"{output}: {error.strerror}", "name a file that can be written")
        ) from None
    if options.json:
        print(json.dumps({**answer, "proof": proof}, ensure_ascii=False, indent=1))
    else:
        _show(report)
        print(
            f"{output}: closed {proof['closed']}, valid {proof['valid']}, volume {proof['volume']:.6g} mm³, "
            f"off the predicted by {proof['relative_error']:.1e}"
        )
    return 0


def _thread(options: argparse.Namespace) -> int:
    thread = read_thread(" ".join(options.designation))
    told = as_dict(thread)
    if options.json:
        print(json.dumps(told, ensure_ascii=False, indent=1))
        return 0
    console = Console()
    unit, digits = ("in", thread.digits) if thread.inch else ("mm", thread.digits)
    members = told["inch"] if thread.inch else told
    console.print(
        f"[bold]{thread.designation}[/]  {thread.title}, {'; '.join(f'{a}: {b}' for a, b in thread.sources)}"
    )
    for side in ("external", "internal"):
        sizes = Table(
            f"{side} {members[side]['tolerance']}", "basic", "most", "least", "unit", box=None
        )
        for name in ("major", "pitch", "minor"):
            row = members[side][name]
            shown = ["–" if row[k] is None else f"{row[k]:.{digits}f}" for k in ("basic", "max", "min")]
            sizes.add_row(f"{name} diameter", *shown, unit)
        console.print(sizes)
    figures = Table("figure", "value", "unit", "from", box=None)
    for figure in gauging(thread):
        value = "–" if figure.value is None else f"{figure.value:.5g}"
        figures.add_row(figure.title, value, figure.unit, figure.formula or figure.source)
    console.print(figures)
    return 0


def _spring(options: argparse.Namespace) -> int:
    part = make_part(read_recipe_file(options.file))
    told = spring_view(part) if isinstance(part, Part) else None
    if told is None:
        raise RecipeError(
            Problem("/spring", "the recipe says nothing of a spring", "add “spring” with its kind and working points")
        )  # fmt: skip
    assert isinstance(part, Part)
    if options.output is not None:
        _write_sheet(part, options.output)
    checks = [check(part, WHOLE) for check in spring_checks_of(part).values()]
    verdict = worst([check.verdict for check in checks])
    if options.json:
        beams = compared(part.spring) if isinstance(part.spring, Compression) else None
        told["beams"] = None if beams is None else vars(beams)
        answer = {"verdict": verdict, **told, "checks": [check.as_dict() for check in checks]}
        print(json.dumps(answer, ensure_ascii=False, indent=1))
        return 1 if verdict == "stop" else 0
    console = Console()
    figures = Table("figure", "value", "unit", "source", box=None)
    for figure in told["figures"]:
        value = "–" if figure["value"] is None else f"{figure['value']:.6g}"
        figures.add_row(figure["title"], value, figure["unit"], figure["source"])
    console.print(figures)
    place, effort = told["units"]
    loads = Table(f"at {place}", effort, "stress MPa", "corrected MPa", "of what is allowed", box=None)
    for load in told["loads"]:
        loads.add_row(
            *(f"{load[key]:.5g}" for key in ("place", "effort", "stress", "corrected_stress")),
            f"{100 * load['utilisation']:.3g} %",
        )
    console.print(loads)
    _show_checks(console, checks)
    return 1 if verdict == "stop" else 0


def _write_sheet(part: Part, output: FilePath) -> None:
    if output.suffix not in SHEETS:
        raise RecipeError(
            Problem(
                "", f"“{output.name}” does not end in a sheet's format", f"use {' or '.join(SHEETS)}"
            )
        )
    try:
        output.write_bytes(SHEETS[output.suffix](spring_sheet(part, date.today())))
    except OSError as error:
        raise RecipeError(
            Problem("", f"{output}: {error.strerror}", "name a file that can be written")
        ) from None


def _section(options: argparse.Namespace) -> int:
    file: FilePath = options.file
    try:
        data = file.read_bytes()[: MAX_DRAWING + 1]
    except OSError as error:
        raise RecipeError(
            Problem("/file", f"{file}: {error.strerror}", "name a drawing that can be read")
        ) from None
    drawing = read_drawing(data, file.suffix, options.unit)
    loops = [loop.model_dump(mode="json") for loop in drawing.loops]
    print(json.dumps({"kind": "free", "loops": loops}, ensure_ascii=False, indent=1))
    for fault in drawing.faults:
        print(f"metaspira: {fault.text}", file=sys.stderr)
    return 0


def _schema(options: argparse.Namespace) -> int:
    print(json.dumps(json_schema(), ensure_ascii=False, indent=1))
    return 0


def _report(file: FilePath) -> Report:
    with Console(stderr=True).status("checking"):
        return report_on(make_part(read_recipe_file(file)))


def _with_progress(part: AnyPart, output: FilePath, chord_error: float | None) -> dict[str, object]:
    columns = (TextColumn("{task.description:>14}"), BarColumn(), TimeElapsedColumn())
    with Progress(*columns, console=Console(stderr=True), transient=True) as bar:
        task = bar.add_task("starting", total=1.0)
        proofs = build_files(
            part,
            [output],
            chord_error,
            lambda share, step: bar.update(task, completed=share, description=step),
        )
    return proofs[output.suffix]


def _show(report: Report) -> None:
    console = Console()
    figures = Table("figure", "value", "unit", box=None)
    figures.columns[1].justify = "right"
    stands_behind = why_of(report.part)
    for name, value in report.figures.items():
        why = stands_behind[name]
        figures.add_row(why.title, "–" if value is None else f"{value:.6g}", why.unit)
    console.print(f"[bold]{report.part.recipe.name}[/]  {_MARKS[report.verdict]}")
    console.print(figures)
    _show_checks(console, report.checks)


def _show_checks(console: Console, checks: Iterable[Check]) -> None:
    for check in checks:
        console.print(f"{_MARKS[check.verdict]}  [bold]{check.title}[/]: {check.why}", highlight=False)
        for remedy in check.remedies:
            console.print(f"         remedy: {remedy.text}   ({remedy.input} = {remedy.value})")


def _refuse(*problems: Problem) -> NoReturn:
    more = f" (and {len(problems) - 1} more)" if len(problems) > 1 else ""
    print(f"metaspira: {problems[0].line()}{more}", file=sys.stderr)
    sys.exit(2)


if __name__ == "__main__":
    main()
