"""Metaspira as a library: parts from keywords or files, what is said of them, and what they become.

Lengths are in millimetres, angles in degrees, forces in newtons, masses in grams, unless a recipe is typed in
another unit.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from os import PathLike
from pathlib import Path as FilePath
from typing import Any

import numpy as np
from pydantic import ValidationError

from metaspira.checks import Report, report_on
from metaspira.formats.lines import Line, line_of
from metaspira.numbers.jets import Array
from metaspira.numbers.kind import Kind
from metaspira.outputs import Built, listing, output_for
from metaspira.outputs.building import demand_clear
from metaspira.parts import AnyPart, bodies_of, make_part
from metaspira.parts import Part as WoundPart
from metaspira.parts.weight import Weight, weigh
from metaspira.problems import Problem, RecipeError, parts_of
from metaspira.recipe.model import FORMAT, Recipe, ThreadRecipe
from metaspira.recipe.reading import problems_of, read_recipe, read_recipe_file
from metaspira.springs.any_spring import AnySpring
from metaspira.studies.find_spring import Wish, find_springs
from metaspira.studies.inputs import with_values
from metaspira.studies.survey import Over, Survey
from metaspira.studies.survey import survey as survey_of
from metaspira.sweep.mesh import Indices
from metaspira.threads.lookup import read_thread
from metaspira.threads.thread import Thread

__all__ = ["Part", "RecipeError", "find_spring", "part", "read", "thread"]


class Part:
    """A part and all that follows from its recipe, worked out when it is asked for.

    Parameters
    ----------
    typed : Recipe or ThreadRecipe
        The recipe. `part` and `read` make parts of keywords and of files.

    Raises
    ------
    RecipeError
        Where the recipe cannot be used; its `problems` tell place, reason and remedy.
    """

    def __init__(self, typed: Recipe | ThreadRecipe) -> None:
        self._part: AnyPart = make_part(typed)
        self._reports: dict[bool, Report] = {}

    def __repr__(self) -> str:
        bodies = len(self._part.bodies)
        return f"<Part “{self._part.typed.name}”, {bodies} {'body' if bodies == 1 else 'bodies'}>"

    @property
    def recipe(self) -> dict[str, Any]:
        """The recipe as JSON, as it was typed."""
        return self._part.typed.model_dump(mode="json", by_alias=True, exclude_none=True)

    @property
    def volume(self) -> float:
        """What all bodies enclose, mm³; 0 of a skin."""
        return self._part.volume

    @property
    def spring(self) -> AnySpring | None:
        """The spring that the part is, None where its recipe says nothing of one: `rate` (N/mm, or N mm/° of
        one that turns), `points` with `length`, `force` and `stress` (mm, N, MPa), `curve()` (two arrays
        (n,): travel and effort)."""
        return self._part.spring

    def check(self, remedies: bool = True) -> Report:
        """Figures and checks.

        Parameters
        ----------
        remedies : bool
            Whether to search for the nearest values that would make each check clear, which takes longer.

        Returns
        -------
        Report
            `verdict` is “clear”, “watch” or “stop”; `figures.wire_length` is a figure (mm, mm², mm³, g,
            degrees), and `report["self-contact"]` a check with `value`, `limit`, `unit`, `verdict`, `why`
            and `remedies`.

        Examples
        --------
        >>> import metaspira as ms
        >>> coil = ms.part(path=ms.Coil(diameter=20, turns=8, pitch=6), section=ms.Round(diameter=2.5))
        >>> report = coil.check()
        >>> report.verdict
        'clear'
        >>> round(report.figures.wire_length, 3)
        504.941
        >>> round(report["self-contact"].value, 3)
        3.473
        """
        if remedies not in self._reports:
            self._reports[remedies] = report_on(self._part, remedies)
        return self._reports[remedies]

    def weigh(self) -> Weight:
        """Mass (g), surface (mm²), box (mm), centre of mass (mm) and inertia (g mm²)."""
        return weigh(self._part)

    def with_values(self, values: Mapping[str, float]) -> Part:
        """The part with other numbers.

        Parameters
        ----------
        values : mapping of str to float
            By JSON pointer into the recipe (RFC 6901), plain numbers as typed there.

        Examples
        --------
        >>> import metaspira as ms
        >>> coil = ms.part(path=ms.Coil(diameter=20, turns=8, pitch=6), section=ms.Round(diameter=2.5))
        >>> coil.with_values({"/path/pitch": 7}).recipe["path"]["pitch"]
        7.0
        """
        changed = with_values(
            self._part.typed, {tuple(parts_of(place)): value for place, value in values.items()}
        )
        return Part(changed.typed)

    def survey(self, over: Mapping[str, tuple[float, float, int]]) -> Survey:
        """The part at even steps of one input or two, on every processor.

        Parameters
        ----------
        over : mapping of str to (low, high, count)
            By JSON pointer, plain numbers as typed there.

        Returns
        -------
        Survey
            `steps` of each input; `verdicts` and `reasons` at each point, the last input's steps first;
            `figures` and `checks` by key, each with its `values`.
        """
        ranges = [
            Over(input=place, low=low, high=high, count=count) for place, (low, high, count) in over.items()
        ]
        return survey_of(self._part.typed, ranges)

    def line(self, wire: int = 0) -> Line:
        """The centre line of a wire, close enough to draw and to measure: true length `s` (n,), `position`
        (n, 3) and `tangent` (n, 3), `curvature` (n,), in mm, 1 and 1/mm. Raises RecipeError on a thread, and
        where there is no such wire."""
        if not isinstance(self._part, WoundPart):
            raise RecipeError(Problem("/thread", "a thread has no centre line", "take its mesh"))
        if not 0 <= wire < len(self._part.bodies):
            raise RecipeError(
                Problem("", f"there is no wire {wire}", f"take 0 to {len(self._part.bodies) - 1}")
            )
        return line_of(self._part.bodies[wire])

    def mesh(self, chord_error: float | None = None) -> tuple[Array, Indices]:
        """Vertices (n, 3) in mm and faces (m, 3) of all bodies, closed, within `chord_error` mm of the shape
        or as fine as looks smooth."""
        meshes = [body.mesh(chord_error) for body in bodies_of(self._part)]
        starts = np.cumsum([0, *(len(mesh.vertices) for mesh in meshes)])
        faces = [mesh.faces + start for mesh, start in zip(meshes, starts, strict=False)]
        return np.concatenate([mesh.vertices for mesh in meshes]), np.concatenate(faces)

    @property
    def outputs(self) -> list[str]:
        """How the names of the files end that the part can become, such as “step” and “path.csv”."""
        return [one["key"] for one in listing(self._part) if one["misfit"] is None]

    def write(self, file: str | PathLike[str], chord_error: float | None = None) -> dict[str, Any]:
        """Write a file; the end of its name says what it is.

        Parameters
        ----------
        file : path
            Such as “spring.step”, “spring.path.csv” or “spring.drawing.pdf”.
        chord_error : float, optional
            Of meshes, mm; the usual one where none is given.

        Returns
        -------
        dict
            What was measured on the file as read back: for a solid whether it is `closed` and `valid`, its
            `volume` (mm³), and the `relative_error` of that.

        Raises
        ------
        RecipeError
            Where the part cannot become such a file.
        BuildError
            Where a check of it says stop, or no proven solid came of it; nothing is written then.
        """
        name = FilePath(file)
        output = output_for(name.name)
        if isinstance(output, Built):
            demand_clear(self.check(remedies=False))
        return output.save(self._part, name, chord_error)


def part(recipe: Mapping[str, Any] | None = None, /, **keys: Any) -> Part:
    """A part from a recipe, from its keys, or from both, the keys over the recipe's.

    Parameters
    ----------
    recipe : mapping, optional
        A recipe as JSON.
    **keys
        What a recipe holds: `path` and `section`, or `thread` and `host`, with what belongs to them. A
        thread may be given by its designation alone.

    Raises
    ------
    RecipeError
        Where that makes no part; its `problems` tell place, reason and remedy.

    Examples
    --------
    >>> import metaspira as ms
    >>> ms.part(name="Coil", path=ms.Coil(diameter=20, turns=8, pitch=6), section=ms.Round(diameter=2.5))
    <Part “Coil”, 1 body>
    >>> ms.part(thread="M10-6g", host=ms.RodHost(length=25)).check().verdict
    'clear'
    """
    given = {"format": FORMAT, **(recipe or {}), **keys}
    if isinstance(given.get("thread"), str):
        given["thread"] = {"designation": given["thread"]}
    return Part(read_recipe(_json(given)))


def read(file: str | PathLike[str]) -> Part:
    """The part of a recipe file.

    Raises
    ------
    RecipeError
        Where the file cannot be read, or its recipe not be used.
    """
    return Part(read_recipe_file(FilePath(file)))


def thread(designation: str) -> Thread:
    """A standard thread by its designation.

    Returns
    -------
    Thread
        `pitch` and `lead` (mm), `external` and `internal`, each with the limits of its `major`, `pitch`
        and `minor` diameter (`basic`, `max`, `min`, mm), and the `sources`.

    Raises
    ------
    RecipeError
        Where no such thread is known; it names the nearest.

    Examples
    --------
    >>> import metaspira as ms
    >>> ms.thread("M10-6g").external.pitch.max
    8.994
    """
    return read_thread(designation)


def find_spring(loads: Sequence[tuple[float, float]], **wishes: Any) -> list[Part]:
    """Springs that have two forces at two lengths, or two torques at two angles, the best first.

    Parameters
    ----------
    loads : two pairs of (length, force)
        In mm and N, the longer length first where it pushes; of a torsion spring (angle, torque) in degrees
        and N mm.
    **wishes
        `kind` (“compression”, “nest” of two, “extension”, “torsion”), `bore`, `rod`, `gap` and `longest`
        (mm), `cycles`, `peened`, `seat`, `wires` (names), `stock` (wire diameters, mm), `turns` (“any”,
        “quarter”, “half”, “whole”), `prices` (a kilogram, by name) and `rank`: “use”, “mass”, “length” or
        “price”.

    Raises
    ------
    RecipeError
        Where the wish makes no sense, or no spring does it; it tells what comes nearest.
    """
    place, effort = ("angle", "torque") if wishes.get("kind") == "torsion" else ("length", "force")
    pairs = [{place: one, effort: other} for one, other in loads]
    data = {"format": FORMAT, "loads": pairs, **wishes}
    try:
        asked = Wish.model_validate(data)
    except ValidationError as error:
        raise RecipeError(problems_of(error.errors(), data, Wish)) from None
    answer = find_springs(asked)
    if not answer.springs:
        if not answer.blocking:
            raise RecipeError(Problem("/wires", "no wire of those fits there", "allow others, or more room"))
        first = answer.blocking[0]
        reason = f"of the nearest, {first.limit} is used by {100 * first.use:.3g} %"
        raise RecipeError(Problem("/loads", reason, f"it takes {first.free}"))
    return [part(found.recipe) for found in answer.springs]


def _json(given: Any) -> Any:
    """What was given, its kinds as JSON."""
    if isinstance(given, Kind):
        return given.model_dump(mode="json", by_alias=True, exclude_none=True)
    if isinstance(given, Mapping):
        return {key: _json(value) for key, value in given.items()}
    return [_json(one) for one in given] if isinstance(given, list | tuple) else given
