"""Drawings and tables of demo designs of every kind, and the solids and meshes of some, opened by a reader
that is not ours: the kernel, lib3mf, the Khronos validator, assimp, ezdxf's audit, poppler, librsvg,
and Python's own of CSV, ZIP and HTML."""

import csv
import io
import json
import subprocess
import zipfile
from html.parser import HTMLParser
from pathlib import Path

import ezdxf
import lib3mf
import numpy as np
import pytest
from metaspira.outputs import outputs
from metaspira.outputs.building import build_files
from metaspira.parts import part_of
from OCP.IFSelect import IFSelect_ReturnStatus
from OCP.STEPControl import STEPControl_Reader
from PIL import Image

from tests.demos import DEMOS

ROOT = Path(__file__).resolve().parents[2]
COARSE = 10
"""How many times the usual chord error the meshes here are within."""
NEVER = ("zip", "ladder")
"""An archive of the others; and what a test of its own looks at."""
SOLID = ("1-", "4-", "9-", "13-", "15-", "18-", "21-", "22-", "25-", "27-")
"""Designs whose solids and meshes are built: one of each kind of body."""
LONG_PATHS = ("11-", "13-")
"""Designs of metres of winding, whose paths take their time; those of the others are read."""
LIKE_OTHERS = ("2-", "5-", "7-", "20-", "24-", "28-", "30-", "32-")
"""Designs of a kind of which another is read."""
READ = [file for file in DEMOS if not file.name.startswith(LIKE_OTHERS)]
OLDER = ("1-", "21-")
"""Designs of which the STEP of the older protocol is read as well."""


def run(*words):
    return subprocess.run(
        list(map(str, words)), capture_output=True, text=True, check=True, cwd=ROOT / "web"
    ).stdout


def read_step(file):
    reader = STEPControl_Reader()
    assert reader.ReadFile(str(file)) == IFSelect_ReturnStatus.IFSelect_RetDone
    assert reader.TransferRoots() >= 1


def read_glb(file):
    validate = (
        "const v=require('gltf-validator');const fs=require('fs');"
        "v.validateBytes(new Uint8Array(fs.readFileSync(process.argv[1])))"
        ".then(r=>console.log(JSON.stringify(r.issues)))"
    )
    issues = json.loads(run("node", "-e", validate, file))
    assert (issues["numErrors"], issues["numWarnings"]) == (0, 0), issues


def read_3mf(file):
    reader = lib3mf.get_wrapper().CreateModel().QueryReader("3mf")
    reader.SetStrictModeActive(True)
    reader.ReadFromFile(str(file))
    assert reader.GetWarningCount() == 0
    with zipfile.ZipFile(file) as archive:
        assert all(one.date_time > (2020, 1, 1) for one in archive.infolist())
    read_by_assimp(file)


def read_by_assimp(file):
    assert "Faces" in run("assimp", "info", file)


def read_dxf(file):
    document = ezdxf.readfile(file)
    assert not document.audit().errors
    assert document.header["$INSUNITS"] == 4
    assert len(document.modelspace()) > 0


def read_pdf(file):
    fonts = run("pdffonts", file).splitlines()[2:]
    assert fonts and all(" yes yes yes " in font for font in fonts), fonts
    text = run("pdftotext", file, "-")
    assert text.strip() and "?" not in text


def read_svg(file):
    picture = file.with_suffix(".png")
    run("rsvg-convert", "-w", 2000, "-h", 2000, "-a", "-b", "white", "-o", picture, file)
    darkest, lightest = Image.open(picture).convert("L").getextrema()
    assert darkest < 240 < lightest


def read_csv(file):
    """RFC 4180: as many cells in each line, which ends in CR LF, and a head."""
    data = file.read_bytes()
    assert data.count(b"\r\n") == data.count(b"\n")
    rows = list(csv.reader(io.StringIO(data.decode(), newline="")))
    assert len({len(row) for row in rows}) == 1
    assert not np.isin([cell[:1] for cell in rows[0]], list("#0123456789")).any()


def read_html(file):
    class Reader(HTMLParser):
        seen: list[str]

        def handle_starttag(self, tag, attributes):
            self.seen.append(tag)

    reader = Reader()
    reader.seen = []
    reader.feed(file.read_text())
    assert {"h1", "table", "svg"} <= set(reader.seen)


READERS = {
    ".step": read_step,
    ".glb": read_glb,
    ".3mf": read_3mf,
    ".stl": read_by_assimp,
    ".obj": read_by_assimp,
    ".ply": read_by_assimp,
    ".dxf": read_dxf,
    ".pdf": read_pdf,
    ".svg": read_svg,
    ".csv": read_csv,
    ".html": read_html,
}


def test_every_kind_of_file_has_a_reader():
    assert {"." + key.rpartition(".")[2] for key in outputs()} == {*READERS, ".zip"}


@pytest.mark.thorough(but=["1-shutter-return-spring", "4-gallery-baluster", "27-clock-hand-nut"])
@pytest.mark.parametrize("file", READ, ids=lambda file: file.name.split(".")[0])
def test_others_read_what_is_written(file, tmp_path):
    part = part_of(json.loads(file.read_text()))
    never = NEVER
    never += ("path",) if file.name.startswith(LONG_PATHS) else ()
    never += () if file.name.startswith(OLDER) else ("ap214",)
    wanted = [one for one in outputs().values() if not one.key.startswith(never) and one.misfit(part) is None]
    if file.name.startswith(SOLID):
        built = [tmp_path / f"part.{one.key}" for one in wanted if one.built]
        build_files(part, built, COARSE * part.usual_chord_error)
    else:
        wanted = [one for one in wanted if not one.built]
    for one in wanted:
        made = tmp_path / f"part.{one.key}"
        if not one.built:
            one.save(part, made)
        READERS[made.suffix](made)
