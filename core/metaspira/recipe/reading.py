"""From JSON to a recipe, with every fault told by place, reason and remedy."""

from __future__ import annotations

import json
import math
from collections.abc import Iterable, Mapping, Sequence
from pathlib import Path as FilePath
from typing import Any, get_args

from pydantic import BaseModel, ValidationError

from metaspira.problems import Fix, Problem, RecipeError, nearest, pointer, suggested
from metaspira.recipe.fields import json_at
from metaspira.recipe.model import FORMAT, Recipe, ThreadRecipe

MAX_BYTES = 1_000_000
MOST_NESTED = 60
_MOST_TOLD = 30
_MOST_QUOTED = 60


def read_recipe(data: Any) -> Recipe | ThreadRecipe:
    """The recipe in parsed JSON `data`. Raises RecipeError."""
    if not isinstance(data, dict):
        raise RecipeError(Problem("", "a recipe is a JSON object", "put it in braces"))
    if data.get("format") != FORMAT:
        given = json.dumps(data["format"])[:60] if "format" in data else "missing"
        raise RecipeError(
            Problem("/format", f"the format is {given}", f"write “{FORMAT}”", Fix("/format", FORMAT))
        )
    try:
        return (ThreadRecipe if "thread" in data else Recipe).model_validate(data)
    except ValidationError as error:
        raise RecipeError(problems_of(error.errors(include_url=False), data)) from None


def read_recipe_text(text: str | bytes) -> Recipe | ThreadRecipe:
    """The recipe in JSON `text`. Raises RecipeError."""
    if len(text) > MAX_BYTES:
        raise RecipeError(Problem("", f"the recipe has {len(text)} bytes", f"keep it under {MAX_BYTES}"))
    return read_recipe(read_json(text))


def read_json(text: str | bytes) -> Any:
    """What JSON `text` holds, by RFC 8259 and no more: finite numbers, Unicode text, nesting no deeper than
    `MOST_NESTED`.
    Raises RecipeError."""
    try:
        data = json.loads(text, parse_constant=_no_constant)
    except json.JSONDecodeError as error:
        raise RecipeError(
            Problem(
                "",
                f"not JSON at line {error.lineno}, column {error.colno}: {error.msg}",
                "correct it there",
            )
        ) from None
    except RecursionError:
        raise RecipeError(_too_deep(())) from None
    except ValueError:
        raise RecipeError(
            Problem("", "not readable as JSON text in UTF-8", "save it as plain UTF-8 JSON")
        ) from None
    _demand_plain((), data)
    waiting: list[tuple[tuple[str | int, ...], Any]] = [((), data)]
    while waiting:
        parts, value = waiting.pop()
        inner = (
            value.items() if isinstance(value, dict) else enumerate(value) if isinstance(value, list) else ()
        )
        if inner and len(parts) >= MOST_NESTED:
            raise RecipeError(_too_deep(parts))
        for key, one in inner:
            if isinstance(key, str) and not _is_text(key):
                raise RecipeError(
                    Problem(pointer(parts), "a name here holds half a character", "type it anew")
                )
            if isinstance(one, dict | list):
                waiting.append(((*parts, key), one))
            elif isinstance(one, float | str):
                _demand_plain((*parts, key), one)
    return data


def _demand_plain(parts: tuple[str | int, ...], value: Any) -> None:
    """Raise RecipeError where a single value is a number that is not finite, or text that is no Unicode."""
    if isinstance(value, float) and not math.isfinite(value):
        raise RecipeError(Problem(pointer(parts), "the number is too large", "type a finite number"))
    if isinstance(value, str) and not _is_text(value):
        raise RecipeError(Problem(pointer(parts), "half a character stands here", "type the text anew"))


def _is_text(text: str) -> bool:
    return text.isascii() or not any("\ud800" <= c <= "\udfff" for c in text)


def read_recipe_file(file: FilePath) -> Recipe | ThreadRecipe:
    """The recipe in a file. Raises RecipeError."""
    return read_recipe_text(bytes_of(file))


def read_json_file(file: FilePath) -> Any:
    """The JSON in a file. Raises RecipeError."""
    return read_json(bytes_of(file))


def bytes_of(file: FilePath, most: int = MAX_BYTES) -> bytes:
    """What is in a file, up to a byte more than is taken. Raises RecipeError."""
    try:
        with file.open("rb") as opened:
            return opened.read(most + 1)
    except OSError as error:
        raise RecipeError(Problem("", f"{file}: {error.strerror}", "name a file that can be read")) from None


def problems_of(
    errors: Iterable[Mapping[str, Any]], data: Any, model: type[BaseModel] | None = None
) -> list[Problem]:
    """Problems from pydantic's error list for the parsed JSON `data`: the first few, and how many more there
    are. `model` is that of a document that is no recipe."""
    found: dict[str, Problem] = {}
    left = 0
    for error in errors:
        if len(found) >= _MOST_TOLD:
            left += 1
            continue
        parts = _place(error["loc"], data, error["type"] == "missing")
        place = pointer(parts)
        if place not in found:
            found[place] = _problem(error, parts, data, model)
    told = [one for place, one in found.items() if not any(deep.startswith(f"{place}/") for deep in found)]
    more = Problem("", f"there are {left} more faults", "correct these first")
    return [*told, more] if left else told


def _quoted(value: Any) -> str:
    return f"“{_cut(str(value))}”"


def _told(value: Any) -> str:
    """A value as it was written."""
    return _cut(json.dumps(value, ensure_ascii=False))


def _cut(text: str) -> str:
    return f"{text[:_MOST_QUOTED]}…" if len(text) > _MOST_QUOTED else text


def _too_deep(parts: Sequence[str | int]) -> Problem:
    return Problem(pointer(parts), f"this is nested more than {MOST_NESTED} deep", "nest less")


def _no_constant(name: str) -> float:
    raise RecipeError(Problem("", f"{name} is not a number that can be used", "type a finite number"))


def _place(loc: Sequence[str | int], data: Any, missing: bool) -> list[str | int]:
    """pydantic's location without the tags of unions that it puts in between: of keys that are not there only
    one that is `missing` itself is left."""
    parts: list[str | int] = []
    here = data
    entered = True
    for index, key in enumerate(loc):
        items = dict(enumerate(here)) if isinstance(here, list) else here
        listed = isinstance(here, list) and isinstance(key, str)
        if not isinstance(items, dict) or listed:
            continue
        if key not in items and not (missing and index == len(loc) - 1):
            continue
        if entered and key == items.get("kind"):
            entered = False
            continue
        here = items.get(key)
        entered = True
        parts.append(key)
    return parts


def _problem(
    error: Mapping[str, Any], parts: list[str | int], data: Any, model: type[BaseModel] | None
) -> Problem:
    place, context = pointer(parts), error.get("ctx", {})
    if not parts:
        return Problem(
            "",
            "this is not a recipe",
            "send a JSON object with path and section, or with thread and host",
        )
    match error["type"]:
        case "extra_forbidden":
            root = model or (ThreadRecipe if "thread" in data else Recipe)
            known = _known_keys(parts[:-1], data, root)
            remedy = suggested(str(parts[-1]), known, f"the keys are {', '.join(known)}")
            return Problem(place, f"{_quoted(parts[-1])} is not a key here", remedy)
        case "missing":
            return Problem(place, f"“{parts[-1]}” is missing", "add it")
        case "union_tag_invalid":
            known = [tag.strip(" '") for tag in context["expected_tags"].split(",")]
            hint = nearest(str(context["tag"]), known)
            return Problem(
                f"{place}/kind",
                f"{_quoted(context['tag'])} is not a kind known here",
                f"use {' or '.join(f'“{tag}”' for tag in known)}",
                Fix(f"{place}/kind", hint) if hint else None,
            )
        case "union_tag_not_found":
            return Problem(f"{place}/kind", "“kind” is missing", "add it")
        case "literal_error":
            known = [word.strip(" '") for word in context["expected"].replace(" or ", ",").split(",")]
            hint = nearest(str(error["input"]), known)
            return Problem(
                place,
                f"{_quoted(error['input'])} is not a choice here",
                f"use {' or '.join(f'“{word}”' for word in known)}",
                Fix(place, hint) if hint else None,
            )
        case "string_type":
            return Problem(place, f"{_told(json_at(data, parts))} is not a text", "put it in quotation marks")
        case "float_type" | "finite_number" | "float_parsing":
            typed = json_at(data, parts)
            if typed in (None, ""):
                return Problem(place, "it is empty", "type a number or a formula")
            return Problem(place, f"{_told(typed)} is not a number or a formula", "type one")
        case "model_type" | "model_attributes_type" | "dict_type":
            told = _told(json_at(data, parts))
            return Problem(place, f"{told} is not an object with keys", "write {…} with its keys and values")
        case "tuple_type" | "list_type":
            return Problem(place, f"{_told(json_at(data, parts))} is not a list", "write its entries in […]")
        case "bool_type" | "bool_parsing":
            return Problem(place, f"{_told(json_at(data, parts))} is neither true nor false", "write one")
        case "int_type" | "int_parsing" | "int_from_float":
            return Problem(place, f"{_told(json_at(data, parts))} is not a whole number", "write one")
        case "string_too_long":
            return Problem(place, "the text is too long", f"use {context['max_length']} characters at most")
        case "too_long":
            return Problem(
                place,
                f"there are {context['actual_length'] or 'more'} entries",
                f"keep to {context['max_length']} at most",
            )
        case "too_short":
            return Problem(place, "there are too few entries", f"give {context['min_length']} at least")
        case "string_too_short":
            return Problem(place, "it is empty", "type a number")
        case "string_pattern_mismatch":
            return Problem(
                pointer(parts[:-1]),
                f"{_quoted(parts[-2] if parts[-1] == '[key]' else parts[-1])} cannot name a variable",
                "use letters, digits and _, a letter first",
            )
        case _:
            return Problem(place, error["msg"][:1].lower() + error["msg"][1:], "correct it")


def _known_keys(parts: Sequence[str | int], data: Any, model: type[BaseModel]) -> list[str]:
    annotation: Any = None
    here = data
    for part in parts:
        here = here[part]
        if not isinstance(part, int):
            field = next((f for n, f in model.model_fields.items() if (f.alias or n) == part), None)
            annotation = field.annotation if field else None
        inner = _model_of(annotation, here)
        if inner is None:
            return []
        model = inner
    return [field.alias or name for name, field in model.model_fields.items()]


def _model_of(annotation: Any, value: Any) -> type[BaseModel] | None:
    """The model among the members of `annotation` that `value` is meant for, by its kind."""
    members = [annotation, *get_args(annotation)]
    members += [inner for member in members for inner in get_args(member)]
    models = [m for m in members if isinstance(m, type) and issubclass(m, BaseModel)]
    kind = value.get("kind") if isinstance(value, dict) else None
    for model in models:
        tag = model.model_fields.get("kind")
        if tag is not None and len(models) > 1 and kind not in get_args(tag.annotation):
            continue
        return model
    return None
