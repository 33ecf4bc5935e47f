"""The package: what is imported is declared."""

import ast
import re
import sys
import tomllib
from importlib.metadata import packages_distributions
from pathlib import Path

ROOT = Path(__file__).resolve().parents[2]
CORE = ROOT / "core/metaspira"
PROJECT = tomllib.loads((ROOT / "pyproject.toml").read_text())["project"]
KERNEL = "OCP"


def imported(folder):
    """The top packages that are imported there, but for Python's own and Metaspira."""
    found = set()
    for file in folder.rglob("*.py"):
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
        for name in imported(CORE) - {"pydantic_core", KERNEL}
    }
    assert needed == declared(PROJECT["dependencies"])
    assert where[KERNEL][0] in declared(PROJECT["optional-dependencies"]["solid"])


def test_what_the_server_imports_is_declared_as_its_extra():
    """Dotted names of settings, such as middleware, count too."""
    own = {folder.name for folder in (ROOT / "server").iterdir()}
    named = set(re.findall(r'"(\w+)(?:\.\w+)+"', (ROOT / "server/metaspira_server/settings.py").read_text()))
    tops = imported(ROOT / "server") | named
    where = packages_distributions()
    needed = {where[name][0].lower().replace("_", "-") for name in tops - own if name in where}
    known = declared(PROJECT["optional-dependencies"]["web"]) | declared(PROJECT["dependencies"])
    assert needed - known == {"metaspira"}
