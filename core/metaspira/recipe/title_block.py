"""What the documents of a part say of it beside its name."""

from __future__ import annotations

import json
import os
from dataclasses import replace
from functools import lru_cache
from typing import Annotated

from pydantic import Field, ValidationError

from metaspira.numbers.kind import Kind
from metaspira.problems import Problem, RecipeError

Line = Annotated[str, Field(max_length=80)]
Short = Annotated[str, Field(max_length=24)]


class TitleBlock(Kind):
    """Data fields of title blocks and document headers (ISO 7200): the legal `owner`, identification
    `number`, `revision`, who made and who approved it, and the general `tolerances` of what bears none of
    its own; and the `licence` of the files."""

    owner: Line = ""
    number: Line = ""
    revision: Short = ""
    creator: Line = Field(default="", title="Made by")
    approver: Line = Field(default="", title="Approved by")
    tolerances: Line = Field(default="", title="General tolerances")
    licence: Line = ""

    def filled_by(self, other: TitleBlock) -> TitleBlock:
        """The same with what another one says where this says nothing."""
        return TitleBlock(
            **(other.model_dump(exclude_defaults=True) | self.model_dump(exclude_defaults=True))
        )


def workshop_block() -> TitleBlock:
    """What the workshop says of all that it makes, where a design says nothing: the JSON object of
    METASPIRA_TITLE_BLOCK. Raises RecipeError where it is none."""
    return _read(os.environ.get(_WORKSHOP, "") or "{}")


_WORKSHOP = "METASPIRA_TITLE_BLOCK"


@lru_cache(maxsize=1)
def _read(text: str) -> TitleBlock:
    from metaspira.recipe.reading import problems_of

    keys = ", ".join(TitleBlock.model_fields)
    try:
        given = json.loads(text)
    except ValueError:
        given = None
    if not isinstance(given, dict):
        raise RecipeError(
            Problem(_WORKSHOP, "it is no JSON object", f"give one with texts for some of {keys}")
        )
    try:
        return TitleBlock.model_validate(given)
    except ValidationError as error:
        found = problems_of(error.errors(), given, TitleBlock)
        raise RecipeError(replace(one, place=_WORKSHOP + one.place) for one in found) from None
