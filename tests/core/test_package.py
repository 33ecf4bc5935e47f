"""The package: what the core imports is declared, and its data go with it."""

import ast
import re
import subprocess
import sys
import tomllib
from importlib.metadata import packages_distributions
from pathlib import Path

ROOT = Path(__file__).resolve().parents[2]
CORE = ROOT / "core/metaspira"
PROJECT = tomllib.loads((ROOT / "pyproject.toml").read_text())["project"]
KERNEL = "OCP"


def imported():
    """The top packages that the core imports, but for Python's own and itself."""
    found = set()
    for file in CORE.rglob("*.py"):
        for node in ast.walk(ast.parse(file.read_text())):
            if isinstance(node, ast.Import):
                found |= {alias.name.split(".")[0] for alias in node.names}
            elif isinstance(node, ast.ImportFrom) and node.module:
                found.add(node.module.split(".")[0])
    return found - set(sys.stdlib_module_names) - {"metaspira"}


def declared(requirements):
    return {re.split(r"[<>=]", one)[0].lower().replace("_", "-") for one in requirements}


def test_what_the_core_imports_is_declared_and_nothing_else():
    """pydantic_core comes with pydantic."""
    where = packages_distributions()
    needed = {
        where.get(name, [name])[0].lower().replace("_", "-")
        for name in imported() - {"pydantic_core", KERNEL}
    }
    assert needed == declared(PROJECT["dependencies"])
    assert where[KERNEL][0] in declared(PROJECT["optional-dependencies"]["solid"])


def test_the_data_of_the_core_go_into_the_package(tmp_path):
    build = [sys.executable, "-c", "import setuptools; setuptools.setup()", "-q", "build_py"]
    subprocess.run([*build, "--build-lib", tmp_path], cwd=ROOT, check=True, capture_output=True)
    data = {file.relative_to(CORE) for file in CORE.rglob("data/*") if file.is_file()}
    built = {file.relative_to(tmp_path / "metaspira") for file in tmp_path.rglob("data/*")}
    assert len(data) > 5
    assert built == data
