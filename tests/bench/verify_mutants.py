"""The code of the checks, springs and threads broken on purpose, a place at a time, and whether the tests
find it: `python tests/bench/verify_mutants.py [COUNT]` writes docs/verification-mutants.md."""

from __future__ import annotations

import ast
import multiprocessing
import os
import random
import shutil
import subprocess
import sys
import tempfile
from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass
from functools import partial
from pathlib import Path

ROOT = Path(__file__).resolve().parents[2]
CORE = ROOT / "core/metaspira"
OUT = ROOT / "docs/verification-mutants.md"
SEED, COUNT, SECONDS = 2, 60, 900
PACKAGES = ("checks", "springs", "threads")
TESTS = {
    "checks/springs": ["measured", "spring_temperature", "springs"],
    "checks/threads": ["screws", "thread_limits", "checks", "threads"],
    "checks": ["headline", "figures", "expected", "questions", "references", "checks"],
    "springs": [
        "measured",
        "spring_temperature",
        "nested",
        "scatter",
        "wire_shapes",
        "spirals",
        "elasticity",
        "standard_springs",
        "springs",
    ],
    "threads": ["tables", "gauges", "joint", "screws", "weighing", "thread_limits", "ladder", "threads"],
}
"""The tests of each folder, those that take least first."""

SWAPPED: dict[type[ast.AST], type[ast.AST]] = {
    ast.Lt: ast.LtE, ast.LtE: ast.Lt, ast.Gt: ast.GtE, ast.GtE: ast.Gt, ast.Eq: ast.NotEq, ast.NotEq: ast.Eq,
    ast.Add: ast.Sub, ast.Sub: ast.Add, ast.Mult: ast.Div, ast.Div: ast.Mult, ast.And: ast.Or,
    ast.Or: ast.And,
    ast.Is: ast.IsNot, ast.IsNot: ast.Is, ast.In: ast.NotIn, ast.NotIn: ast.In,
}  # fmt: skip


@dataclass(frozen=True)
class Mutant:
    """A place in a file, by its lines and columns, and what stands there instead."""

    file: str
    start: tuple[int, int]
    end: tuple[int, int]
    before: str
    after: str

    @property
    def package(self) -> str:
        return Path(self.file).parts[2]

    @property
    def folder(self) -> str:
        inner = "/".join(Path(self.file).parts[2:])
        return next(folder for folder in TESTS if inner.startswith(folder))

    def into(self, tree: Path) -> None:
        """Break the file in a tree."""
        text = (tree / self.file).read_bytes().split(b"\n")
        (row, column), (last, stop) = self.start, self.end
        head, tail = text[row - 1][:column], text[last - 1][stop:]
        text[row - 1 : last] = [head + self.after.encode() + tail]
        (tree / self.file).write_bytes(b"\n".join(text))


def mutants(path: Path) -> Iterator[Mutant]:
    """All that may be broken in a module: comparisons, sums, products, conditions and numbers; not what is
    within text or says a type."""
    source = path.read_text()
    left_out: set[ast.AST] = set()
    tree = ast.parse(source)
    for node in ast.walk(tree):
        if isinstance(node, ast.JoinedStr):
            left_out |= set(ast.walk(node))
        for field in ("annotation", "returns"):
            said = getattr(node, field, None)
            if said is not None:
                left_out |= set(ast.walk(said))
    for node in ast.walk(tree):
        broken = None if node in left_out else broken_of(node)
        if broken is not None and isinstance(node, ast.expr):
            yield Mutant(
                str(path.relative_to(ROOT)),
                (node.lineno, node.col_offset),
                (node.end_lineno or 0, node.end_col_offset or 0),
                ast.unparse(node),
                f"({ast.unparse(broken)})",
            )


def broken_of(node: ast.AST) -> ast.expr | None:
    """An expression with something else in it; None where there is nothing to break."""
    if isinstance(node, ast.Compare) and len(node.ops) == 1:
        return ast.Compare(node.left, [SWAPPED[type(node.ops[0])]()], node.comparators)  # type: ignore[list-item]
    if isinstance(node, ast.BinOp) and type(node.op) in SWAPPED:
        return ast.BinOp(node.left, SWAPPED[type(node.op)](), node.right)  # type: ignore[arg-type]
    if isinstance(node, ast.BoolOp):
        return ast.BoolOp(SWAPPED[type(node.op)](), node.values)  # type: ignore[arg-type]
    if isinstance(node, ast.UnaryOp) and isinstance(node.op, ast.Not):
        return node.operand
    if (
        isinstance(node, ast.Constant)
        and isinstance(node.value, int | float)
        and type(node.value) is not bool
    ):
        return ast.Constant(node.value + 1 if isinstance(node.value, int) else 1.1 * node.value + 1e-3)
    return None


def fail(tree: Path, folder: str) -> bool:
    """Whether the tests of a folder fail in a tree, or do not come to their end."""
    tests = [f"tests/core/test_{name}.py" for name in TESTS[folder]]
    plain = ["-x", "-q", "-p", "no:randomly", "-p", "no:cacheprovider"]
    try:
        ended = subprocess.run(
            [sys.executable, "-m", "pytest", *plain, *tests],
            cwd=tree,
            env={**os.environ, "PYTHONPATH": "core:server"},
            capture_output=True,
            timeout=SECONDS,
            check=False,
        )
    except subprocess.TimeoutExpired:
        return True
    return ended.returncode != 0


def held(trees: multiprocessing.Queue[Path], mutant: Mutant) -> tuple[Mutant, bool]:
    """A mutant in a tree that nobody else has meanwhile."""
    tree = trees.get()
    whole = (tree / mutant.file).read_bytes()
    try:
        mutant.into(tree)
        killed = fail(tree, mutant.folder)
    finally:
        (tree / mutant.file).write_bytes(whole)
        trees.put(tree)
    said = "found" if killed else "LIVES"
    print(said, mutant.file, mutant.start, mutant.before, "→", mutant.after, flush=True)
    return mutant, killed


def main() -> None:
    count = int(sys.argv[1]) if len(sys.argv) > 1 else COUNT
    workers = int(sys.argv[2]) if len(sys.argv) > 2 else os.cpu_count() or 1
    rng = random.Random(SEED)
    picked = []
    for package in PACKAGES:
        every = [
            one
            for path in sorted((CORE / package).rglob("*.py"))
            if path.name != "air.py"
            for one in mutants(path)
        ]
        picked += rng.sample(every, count // len(PACKAGES))
    with tempfile.TemporaryDirectory() as folder, multiprocessing.Manager() as manager:
        trees = manager.Queue()
        for k in range(workers):
            tree = Path(folder) / str(k)
            subprocess.run(["git", "clone", "-q", str(ROOT), str(tree)], check=True)
            for compiled in (CORE / "numbers").glob("_compiled_*"):
                shutil.copy(compiled, tree / "core/metaspira/numbers")
            trees.put(tree)
        for folder in TESTS:
            if fail(tree, folder):
                sys.exit(f"the tests of {folder} fail where nothing is broken")
        with multiprocessing.Pool(workers) as pool:
            rows = pool.map(partial(held, trees), picked, chunksize=1)
    write(rows)


def write(rows: list[tuple[Mutant, bool]]) -> None:
    """The share that was found, by package, and those that live."""
    of = Counter(mutant.package for mutant, _ in rows)
    killed = Counter(mutant.package for mutant, dead in rows if dead)
    share = 100 * sum(killed.values()) / len(rows)
    lines = [
        "# Verification of the tests",
        "",
        f"Written by `python tests/bench/verify_mutants.py`: {len(rows)} places in the code of checks, "
        "springs and threads, picked by chance, were broken one at a time (a comparison, a sum, a product, a "
        "condition, a number), and the tests of their folder run, without those of the "
        "rest, which would find some more. "
        f"**{sum(killed.values())} of {len(rows)} ({share:.0f} %) were found.** Of those that live, some "
        "change nothing that can be told (a bound that is never met exactly, a tolerance).",
        "",
        "| package | broken | found |",
        "| --- | ---: | ---: |",
        *(f"| {name} | {of[name]} | {killed[name]} |" for name in PACKAGES),
        "",
        "## Those that live",
        "",
        "| where | was | became |",
        "| --- | --- | --- |",
        *(row(mutant) for mutant, dead in rows if not dead),
    ]
    OUT.write_text("\n".join(lines) + "\n")


def row(mutant: Mutant) -> str:
    where = f"`{mutant.file.removeprefix('core/metaspira/')}` {mutant.start[0]}"
    return f"| {where} | `{cell(mutant.before)}` | `{cell(mutant.after)}` |"


def cell(text: str) -> str:
    return (text if len(text) < 70 else text[:69] + "…").replace("|", "\\|")


if __name__ == "__main__":
    main()
