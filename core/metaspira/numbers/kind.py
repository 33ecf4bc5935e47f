"""What every part of a recipe has in common: unknown keys are refused, values are not changed."""

from pydantic import BaseModel, ConfigDict


class Kind(BaseModel):
    model_config = ConfigDict(extra="forbid", frozen=True)
