"""What is done with the library: forms and fits kept, listed and taken out."""

from __future__ import annotations

import uuid
from typing import Any

from metaspira.parts import part_of
from metaspira.problems import Problem, RecipeError

from library.models import PrintedFit, ThreadForm

_KEPT = ("form", "diameter", "pitch", "starts")
_MOST = 500


def forms() -> list[ThreadForm]:
    """Every form, by name."""
    return list(ThreadForm.objects.all())


def keep_form(name: str, unit: str, thread: dict[str, Any], made_by: str) -> ThreadForm:
    """Keep a form under a name; one of the same maker that is there is put in its place. Raises RecipeError
    where it makes no thread by itself, or where the name is empty or somebody else's."""
    name = name.strip()[:120]
    if not name:
        raise RecipeError(Problem("/name", "the form has no name", "give it one"))
    kept = {key: thread[key] for key in _KEPT if key in thread}
    square = {"kind": "plain"}
    part_of(
        {
            "format": "metaspira/1",
            "unit": unit,
            "thread": {**kept, "start": square, "end": square},
            "host": {"kind": "rod", "length": kept.get("pitch", 1)},
        }
    )
    if ThreadForm.objects.count() >= _MOST:
        raise RecipeError(Problem("", f"the library keeps {_MOST} forms", "take one out first"))
    if ThreadForm.objects.filter(name=name).exclude(made_by=made_by).exists():
        raise RecipeError(Problem("/name", f"“{name}” is somebody else's form", "keep it under another name"))
    form, _ = ThreadForm.objects.update_or_create(
        name=name, defaults={"unit": unit, "thread": kept, "made_by": made_by}
    )
    return form


def take_out(form_id: uuid.UUID) -> None:
    """Take a form out of the library. Raises ThreadForm.DoesNotExist."""
    ThreadForm.objects.get(pk=form_id).delete()


def fits() -> list[PrintedFit]:
    """Every fit, by printer and material."""
    return list(PrintedFit.objects.all())


def keep_fit(printer: str, material: str, allowance: float, made_by: str) -> PrintedFit:
    """Keep the allowance that fits, mm, for a printer and a material; one of the same maker that is there is
    put in its place. Raises RecipeError where a name is empty, or the fit is somebody else's."""
    named = {"printer": printer.strip()[:120], "material": material.strip()[:120]}
    for key, name in named.items():
        if not name:
            raise RecipeError(Problem(f"/{key}", f"the {key} has no name", "give it one"))
    if PrintedFit.objects.count() >= _MOST:
        raise RecipeError(Problem("", f"the library keeps {_MOST} fits", "take one out first"))
    if PrintedFit.objects.filter(**named).exclude(made_by=made_by).exists():
        raise RecipeError(
            Problem("/printer", "somebody else keeps a fit of this printer and material", "name it otherwise")
        )
    fit, _ = PrintedFit.objects.update_or_create(
        printer=named["printer"],
        material=named["material"],
        defaults={"allowance": allowance, "made_by": made_by},
    )
    return fit


def take_fit_out(fit_id: uuid.UUID) -> None:
    """Take a fit out of the library. Raises PrintedFit.DoesNotExist."""
    PrintedFit.objects.get(pk=fit_id).delete()
