"""Inputs that move, all checks at each frame, an animation."""

from __future__ import annotations

import argparse
import json
from pathlib import Path as FilePath

from rich.console import Console
from rich.table import Table

from metaspira.cli.common import MARKS, demand_suffix, progress_bar, write
from metaspira.cli.typed import finite
from metaspira.problems import Problem, RecipeError
from metaspira.recipe.model import Recipe
from metaspira.recipe.reading import read_recipe_file
from metaspira.studies.film import Film, glb_of, pictures_of, video_of, zip_of
from metaspira.studies.run import Track, run_through


def _video(film: Film) -> bytes:
    return video_of(pictures_of(film), film.run.seconds)


def _pictures(film: Film) -> bytes:
    return zip_of(pictures_of(film))


MAKERS = {".glb": glb_of, ".webp": _video, ".zip": _pictures}
"""The animation, the video or the pictures of a run, by the end of the file's name."""


def add_to(parser: argparse.ArgumentParser) -> None:
    """Add its arguments."""
    parser.add_argument("file", type=FilePath)
    parser.add_argument(
        "--move",
        action="append",
        required=True,
        metavar="INPUT=VALUE:VALUE[:…]",
        help="a JSON pointer and the values that it moves through, such as /path/pitch=6:2:6",
    )
    parser.add_argument("--frames", type=int, default=40)
    parser.add_argument("--seconds", type=finite, default=4.0)
    parser.add_argument("-o", "--output", type=FilePath, help=", ".join(MAKERS))
    parser.add_argument("--json", action="store_true")


def run(options: argparse.Namespace) -> int:
    if options.output is not None:
        demand_suffix(options.output, list(MAKERS))
    tracks = [_track(text) for text in options.move]
    typed = read_recipe_file(options.file)
    if not isinstance(typed, Recipe):
        raise RecipeError(Problem("/thread", "a thread is not run through", "take a coil"))
    with progress_bar() as bar:
        task = bar.add_task("starting", total=1.0)
        film = run_through(
            typed,
            tracks,
            options.frames,
            options.seconds,
            lambda share, step: bar.update(task, completed=share, description=step),
        )
    if options.output is not None:
        write(options.output, MAKERS[options.output.suffix](film))
    run = film.run
    if options.json:
        print(json.dumps(run.as_dict(), ensure_ascii=False, indent=1))
    else:
        heads = (f"{one.words} {one.unit}".strip() for one in run.inputs)
        table = Table("frame", *heads, "verdict", "why", box=None)
        for number, frame in enumerate(run.frames, 1):
            values = (f"{value:.6g}" for value in frame.values)
            table.add_row(str(number), *values, MARKS.get(frame.verdict, frame.verdict), frame.why)
        Console().print(table)
    return 0 if run.clash is None else 1


def _track(text: str) -> Track:
    place, _, values = text.partition("=")
    try:
        return Track(input=place, values=[float(value) for value in values.split(":")])
    except ValueError:
        raise RecipeError(
            Problem("--move", f"“{text[:80]}” moves nothing", "write it as /path/pitch=6:2:6")
        ) from None
