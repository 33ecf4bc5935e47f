"""The sample designs that ship, as tests read them."""

import json
from pathlib import Path
from typing import Any

DEMO = Path(__file__).resolve().parents[1] / "demo"
DEMOS = sorted(DEMO.glob("*.json"), key=lambda file: int(file.name.split("-")[0]))


def demo(number: int) -> dict[str, Any]:
    """The recipe of a sample design by its number."""
    return json.loads(next(DEMO.glob(f"{number}-*")).read_text())
