"""The notices of what Metaspira is made with: `python tools/notices.py` writes THIRD-PARTY.md and sbom.json
(CycloneDX 1.5); with --check it changes nothing, and fails where they are not as they should be, or where a
licence is not on the list."""

from __future__ import annotations

import importlib.metadata
import json
import re
import sys
from pathlib import Path
from typing import Any

ROOT = Path(__file__).resolve().parents[1]
ALLOWED = {
    "0BSD", "Apache Software License", "Apache-2.0", "Apache-2.0 WITH LLVM-exception", "Artistic License", "BlueOak-1.0.0", "BSD License",
    "BSD-2-Clause", "BSD-3-Clause", "BSD-derived (http://www.repoze.org/LICENSE.txt)", "CC-BY-4.0", "CC0-1.0", "ISC", "MIT", "MIT License",
    "MIT-CMU", "MPL-2.0", "Python Software Foundation License", "Mozilla Public License 2.0 (MPL 2.0)", "OFL-1.1", "PSF-2.0", "Python-2.0", "Zlib", "Zope Public License",
}  # fmt: skip
_UNSAID = {"huey": "MIT", "webgl-constants": "MIT"}
"""Licences that stand in the package's own files but not in its metadata."""


def main() -> int:
    found = sorted([*_python(), *_web()], key=lambda one: (one["type"], one["name"].lower()))
    wrong = [f"{one['name']} {one['version']}: {one['licence']}" for one in found if not _is_allowed(one["licence"])]  # fmt: skip
    if wrong:
        print("licences that are not on the list of tools/notices.py:", *wrong, sep="\n  ", file=sys.stderr)  # fmt: skip
        return 1
    files = {ROOT / "THIRD-PARTY.md": _notices(found), ROOT / "sbom.json": _sbom(found)}
    for file, text in files.items():
        if "--check" not in sys.argv:
            file.write_text(text, encoding="utf-8")
        elif not file.exists() or file.read_text(encoding="utf-8") != text:
            print(f"{file.name} is out of date: run python tools/notices.py", file=sys.stderr)
            return 1
    return 0


def _python() -> list[dict[str, str]]:
    pinned = re.findall(r"(?m)^([\w.-]+)==(\S+)", (ROOT / "requirements.txt").read_text())
    return [
        {"type": "pypi", "name": name, "version": version, "licence": _licence_of(name)}
        for name, version in pinned
    ]


def _licence_of(name: str) -> str:
    told = importlib.metadata.metadata(name)
    listed = [one.rsplit(" :: ", 1)[-1] for one in told.get_all("Classifier", []) if one.startswith("License ::")]  # fmt: skip
    said = told.get("License-Expression") or " OR ".join(listed) or _UNSAID.get(name)
    return said or (told.get("License") or "unknown").split("\n")[0]


def _web() -> list[dict[str, str]]:
    locked = json.loads((ROOT / "web/package-lock.json").read_text())["packages"]
    rows = {
        (path.rsplit("node_modules/", 1)[-1], one["version"]): one.get("license", "unknown")
        for path, one in locked.items()
        if path and "version" in one
    }
    return [
        {"type": "npm", "name": name, "version": version, "licence": _UNSAID.get(name, licence)}
        for (name, version), licence in rows.items()
    ]


def _is_allowed(licence: str) -> bool:
    plain = licence[1:-1] if licence.startswith("(") and licence.endswith(")") else licence
    return any(ALLOWED.issuperset(choice.split(" AND ")) for choice in plain.split(" OR "))


def _notices(found: list[dict[str, str]]) -> str:
    rows = "\n".join(f"| {one['name']} | {one['version']} | {one['licence']} |" for one in found)
    return f"""# What Metaspira is made with

Written by `python tools/notices.py` from the pinned requirements and the packages' own metadata; the licence texts come with the
packages. `cadquery-ocp` holds Open CASCADE Technology (LGPL 2.1 with its exception) and `shapely` holds GEOS (LGPL 2.1), both linked
dynamically and replaceable. The interface ships the fonts of the `@fontsource` packages under the SIL Open Font License.

| package | version | licence |
| --- | --- | --- |
{rows}
"""


def _sbom(found: list[dict[str, str]]) -> str:
    told: dict[str, Any] = {
        "bomFormat": "CycloneDX",
        "specVersion": "1.5",
        "version": 1,
        "metadata": {"component": {"type": "application", "name": "metaspira"}},
        "components": [
            {
                "type": "library",
                "name": one["name"],
                "version": one["version"],
                "purl": f"pkg:{one['type']}/{one['name'].replace('@', '%40')}@{one['version']}",
                "licenses": [{"license": {"name": one["licence"]}}],
            }
            for one in found
        ],
    }
    return json.dumps(told, indent=1) + "\n"


if __name__ == "__main__":
    sys.exit(main())
