"""Types of recipe fields that hold a number or a formula.

A field keeps what was typed (a number or text). After `recipe.resolving.resolve` it holds a float in
base units: millimetres, radians, turns, newtons, plain. The static type is that of the resolved recipe.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Any, Literal

from pydantic import GetCoreSchemaHandler, GetJsonSchemaHandler
from pydantic_core import CoreSchema, core_schema

from metaspira.numbers.expressions import MAX_CHARACTERS
from metaspira.numbers.formulas import Formula

Kind = Literal[
    "length",
    "area",
    "volume",
    "angle",
    "radian",
    "turns",
    "force",
    "torque",
    "stress",
    "mass",
    "number",
    "count",
]


@dataclass(frozen=True)
class Quantity:
    """What a number field measures, and the least and most that it may be (base units)."""

    kind: Kind
    least: float
    most: float
    unit: str = ""
    """What it counts in, where its kind does not tell."""

    def __get_pydantic_core_schema__(self, source: Any, handler: GetCoreSchemaHandler) -> CoreSchema:
        return core_schema.union_schema(
            [
                core_schema.float_schema(strict=True, allow_inf_nan=False),
                core_schema.str_schema(strict=True, min_length=1, max_length=MAX_CHARACTERS),
            ]
        )

    def __get_pydantic_json_schema__(
        self, schema: CoreSchema, handler: GetJsonSchemaHandler
    ) -> dict[str, Any]:
        return {
            "type": ["number", "string"],
            "maxLength": MAX_CHARACTERS,
            "x-quantity": self.kind,
            "x-least": self.least,
            "x-most": self.most,
            **({"x-unit": self.unit} if self.unit else {}),
        }


@dataclass(frozen=True)
class FormulaOf:
    """A text field that holds a formula for a changing quantity; resolved, a `formulas.Formula`."""

    kind: Kind

    def __get_pydantic_core_schema__(self, source: Any, handler: GetCoreSchemaHandler) -> CoreSchema:
        return core_schema.str_schema(strict=True, min_length=1, max_length=MAX_CHARACTERS)

    def __get_pydantic_json_schema__(
        self, schema: CoreSchema, handler: GetJsonSchemaHandler
    ) -> dict[str, Any]:
        return {"type": "string", "maxLength": MAX_CHARACTERS, "x-formula": self.kind}


_SMALLEST = 1e-3
_LARGEST = 1e6

Length = Annotated[float, Quantity("length", _SMALLEST, _LARGEST)]
Offset = Annotated[float, Quantity("length", -_LARGEST, _LARGEST)]
Distance = Annotated[float, Quantity("length", 0.0, _LARGEST)]
Angle = Annotated[float, Quantity("angle", -1e7, 1e7)]
Turns = Annotated[float, Quantity("turns", 1e-3, 20_000)]
Factor = Annotated[float, Quantity("number", -1e6, 1e6)]
Share = Annotated[float, Quantity("number", 0.0, 1.0)]
Area = Annotated[float, Quantity("area", 1e-6, 1e12)]
Force = Annotated[float, Quantity("force", 0.0, 1e9)]
Torque = Annotated[float, Quantity("torque", 0.0, 1e12, "N mm")]
Stress = Annotated[float, Quantity("stress", 1.0, 1e6, "MPa")]
Count = Annotated[float, Quantity("count", 3, 64)]
Few = Annotated[float, Quantity("count", 1, 37)]

AnyLength = Annotated[Formula, FormulaOf("length")]
AnyArea = Annotated[Formula, FormulaOf("area")]
AnyAngle = Annotated[Formula, FormulaOf("angle")]
AnyFactor = Annotated[Formula, FormulaOf("number")]
