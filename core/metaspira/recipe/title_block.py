"""What the documents of a part say of it beside its name."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from metaspira.numbers.kind import Kind

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
