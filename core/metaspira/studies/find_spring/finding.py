"""Find a spring that does what is wished, of whichever kind."""

from __future__ import annotations

from metaspira.recipe.resolving import resolve
from metaspira.studies.find_spring import nests, pulling, pushing, turning
from metaspira.studies.find_spring.found import Answer
from metaspira.studies.find_spring.search import search
from metaspira.studies.find_spring.tried import Searched
from metaspira.studies.find_spring.wish import Wish

_KINDS: dict[str, Searched] = {"compression": pushing, "extension": pulling, "torsion": turning}


def find_springs(typed: Wish, most: int = 24) -> Answer:
    """Search every wire that is allowed. Raises RecipeError where the wish makes no sense."""
    wish = resolve(typed)
    wish.demand_sense()
    kind = _KINDS.get(wish.kind)
    return nests.search(wish, most) if kind is None else search(wish, kind, most)
