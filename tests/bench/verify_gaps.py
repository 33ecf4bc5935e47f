"""Random bodies against exact booleans, many of them: `python tests/bench/verify_gaps.py COUNT` writes
docs/verification-gaps.md.

What was found stands in var/verified-gaps.jsonl, a line a seed; Ctrl-C ends a run, and the next one goes on
from there. Remove the file when the search has changed.
"""

from __future__ import annotations

import json
import multiprocessing
import sys
from pathlib import Path

sys.path.insert(0, str(Path(__file__).resolve().parents[1] / "core"))

from random_bodies import CHORD, MARGIN, case

ROOT = Path(__file__).resolve().parents[2]
OUT, FOUND = ROOT / "docs/verification-gaps.md", ROOT / "var/verified-gaps.jsonl"


def _told(seed: int) -> tuple[int, list[bool] | None]:
    """A seed and what was found of it: a false clear, a false stop, a distance outside the interval, no
    decision; None where the pair is no fair one."""
    found = case(seed)
    if found is None:
        return seed, None
    undecided = found.low <= 0 <= found.high
    return seed, [found.false_clear, found.false_stop, found.outside_interval, undecided]


def report(found: dict[int, list[bool] | None]) -> str:
    fair = {seed: row for seed, row in found.items() if row is not None}
    clear, stop, outside, undecided = (sum(row[k] for row in fair.values()) for k in range(4))
    wrong = sorted(seed for seed, row in fair.items() if any(row[:3]))
    return f"""# Verification of gaps

Written by `python tests/bench/verify_gaps.py`: pairs of random bodies (nine kinds of section with hollows and holes, straight and curved, twisted and tapered, coils in coils), most moved
until they nearly touch, from either side. Their meshes are within {CHORD} mm of the shapes; Manifold (manifold3d) intersects them exactly and measures their distance, and what it says is held
against the verdict and the interval wherever the gap is larger than {MARGIN} mm.

| of {len(found)} seeds | count |
| --- | ---: |
| fair pairs (no wire folds or meets itself) | {len(fair)} |
| false clear | {clear} |
| false stop | {stop} |
| distance of the meshes outside the interval | {outside} |
| neither clear nor stop (the interval holds 0) | {undecided} |

Seeds that were wrong: {wrong or "none"}.
"""


def main() -> None:
    count = int(sys.argv[1]) if len(sys.argv) > 1 else 20_000
    FOUND.parent.mkdir(exist_ok=True)
    FOUND.touch()
    found = dict(json.loads(line) for line in FOUND.read_text().splitlines())
    left = [seed for seed in range(count) if seed not in found]
    with multiprocessing.get_context("spawn").Pool() as pool, FOUND.open("a") as lines:
        try:
            for seed, row in pool.imap_unordered(_told, left, chunksize=20):
                found[seed] = row
                print(json.dumps([seed, row]), file=lines, flush=True)
        except KeyboardInterrupt:
            pool.terminate()
    OUT.write_text(report(found))
    print(OUT.read_text())


if __name__ == "__main__":
    main()
