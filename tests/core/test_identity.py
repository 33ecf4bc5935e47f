"""What files say of the part and of themselves, as the kernel's document reader finds it in them."""

import pytest
import trimesh
from metaspira.formats.meshes import TooFarOff, proven
from metaspira.numbers.shown import quantity_shown
from metaspira.outputs.building import build_files
from metaspira.parts import part_of
from metaspira.parts.identity import identity_of
from OCP.collections import Sequence_TDF_Label
from OCP.Quantity import Quantity_Color
from OCP.STEPCAFControl import STEPCAFControl_Reader
from OCP.TCollection import TCollection_ExtendedString
from OCP.TDataStd import TDataStd_Name
from OCP.TDF import TDF_Label
from OCP.TDocStd import TDocStd_Document
from OCP.TopAbs import TopAbs_ShapeEnum
from OCP.TopExp import TopExp_Explorer
from OCP.XCAFDoc import XCAFDoc_ColorType, XCAFDoc_DocumentTool, XCAFDoc_Material

from tests.demos import demo

BLOCK = {
    "owner": "Lighthouse Works, Łódź",
    "number": "LW-0417",
    "revision": "C",
    "creator": "M. O'Hara",
    "approver": "日本 太郎",
    "tolerances": "ISO 2768-m",
    "licence": "CC BY 4.0",
}


class Document:
    """A STEP file as its reader gives it."""

    def __init__(self, file):
        self.document = TDocStd_Document(TCollection_ExtendedString("XmlXCAF"))
        reader = STEPCAFControl_Reader()
        reader.SetMatMode(True)
        reader.SetMetaMode(True)
        reader.ReadFile(str(file))
        assert reader.Transfer(self.document)
        self.shapes = XCAFDoc_DocumentTool.ShapeTool_s(self.document.Main())
        found = Sequence_TDF_Label()
        self.shapes.GetFreeShapes(found)
        assert found.Length() == 1
        self.whole = found.Value(1)

    @staticmethod
    def name(label):
        attribute = TDataStd_Name()
        return (
            attribute.Get().ToExtString() if label.FindAttribute(TDataStd_Name.GetID_s(), attribute) else None
        )

    def parts(self):
        found = Sequence_TDF_Label()
        self.shapes.GetComponents_s(self.whole, found)
        labels = []
        for k in range(1, found.Length() + 1):
            of = TDF_Label()
            self.shapes.GetReferredShape_s(found.Value(k), of)
            labels.append(of)
        return labels

    def colour(self, label):
        colour = Quantity_Color()
        tool = XCAFDoc_DocumentTool.ColorTool_s(self.document.Main())
        shape = self.shapes.GetShape_s(label)
        assert tool.GetColor(shape, XCAFDoc_ColorType.XCAFDoc_ColorSurf, colour)
        return Quantity_Color.ColorToHex_s(colour).ToCString().lower()

    def face_colours(self):
        tool, found = XCAFDoc_DocumentTool.ColorTool_s(self.document.Main()), set()
        faces = TopExp_Explorer(self.shapes.GetShape_s(self.whole), TopAbs_ShapeEnum.TopAbs_FACE)
        while faces.More():
            colour = Quantity_Color()
            if tool.GetColor(faces.Current(), XCAFDoc_ColorType.XCAFDoc_ColorSurf, colour):
                found.add(Quantity_Color.ColorToHex_s(colour).ToCString().lower())
            faces.Next()
        return found

    def materials(self):
        found = Sequence_TDF_Label()
        XCAFDoc_DocumentTool.MaterialTool_s(self.document.Main()).GetMaterialLabels(found)
        told = []
        for k in range(1, found.Length() + 1):
            attribute = XCAFDoc_Material()
            assert found.Value(k).FindAttribute(XCAFDoc_Material.GetID_s(), attribute)
            told.append((attribute.GetName().ToCString(), attribute.GetDensity()))
        return told


def written(data, folder, *suffixes):
    files = [folder / f"part{suffix}" for suffix in suffixes]
    build_files(part_of(data), files)
    return files


def test_a_step_file_says_what_it_is_and_whose(spring, tmp_path):
    spring |= {"name": "O'Brien's \\ Ø 3 — 日本 𝛑", "title_block": BLOCK, "material": "brass"}
    (file,) = written(spring, tmp_path, ".step")
    text = file.read_bytes()
    assert text.isascii()
    assert b"AP242_MANAGED_MODEL_BASED_3D_ENGINEERING" in text
    head = text.decode().split("ENDSEC")[0]
    for told in ("LW-0417 C", "Metaspira", "M. O''Hara", "Lighthouse Works, \\X2\\0141\\X0\\\\X2\\00F3"[:20]):
        assert told in head, told
    for standing in ("Open CASCADE", "'Author'"):
        assert standing not in head
    read = Document(file)
    assert read.name(read.whole) == spring["name"]
    assert read.colour(read.whole) == "#c2a14d"
    assert ("Brass", pytest.approx(8.5)) in read.materials()


def test_what_is_painted_is_painted_face_by_face(tmp_path):
    painted = {
        "format": "metaspira/1",
        "path": {"kind": "straight", "length": 40},
        "section": {
            "kind": "rectangle",
            "width": 6,
            "height": 6,
            "paint": [{"edge": 0, "colour": "#aa2211"}, {"edge": 2, "colour": "#1122aa"}],
        },
        "material": "oak",
    }
    (file,) = written(painted, tmp_path, ".step")
    assert Document(file).face_colours() >= {"#aa2211", "#1122aa"}


def test_a_nest_is_an_assembly_of_named_springs(tmp_path):
    (file,) = written(demo(19), tmp_path, ".ap214.step")
    assert b"AUTOMOTIVE_DESIGN" in file.read_bytes()
    read = Document(file)
    title = demo(19)["name"]
    assert read.name(read.whole) == title
    assert [read.name(label) for label in read.parts()] == [f"{title}, wire", f"{title}, inner spring"]


def test_a_bolt_has_its_nut_and_its_limits(tmp_path):
    (file,) = written(demo(21), tmp_path, ".step")
    assert len(Document(file).parts()) == 2
    text = file.read_text()
    # ISO 965-2, M10-6g: pitch diameter 8.862 to 8.994, major 9.732 to 9.968.
    for told in ("M10-6g, external", "8.862 mm to 8.994 mm", "9.732 mm to 9.968 mm"):
        assert told in text.replace("\n", ""), told


def test_a_recipe_gives_the_same_file_each_time(spring, tmp_path, monkeypatch):
    monkeypatch.setenv("SOURCE_DATE_EPOCH", "1780000000")
    assert identity_of(part_of(spring)).stamp == "2026-05-28T20:26:40Z"
    suffixes = (".step", ".stl", ".3mf", ".glb", ".obj", ".ply")
    for folder in (tmp_path / "one", tmp_path / "two"):
        folder.mkdir()
        written(spring, folder, *suffixes)
    for suffix in suffixes:
        one, two = ((tmp_path / name / f"part{suffix}").read_bytes() for name in ("one", "two"))
        assert one == two, suffix


def test_masses_and_volumes_are_in_units_of_their_size():
    said = [
        quantity_shown(value, "g", unit) for value, unit in ((0.002, "mm"), (34.0761, "mm"), (74726, "m"))
    ]
    assert said == ["2 mg", "34.076 g", "74.726 kg"]
    assert quantity_shown(453.59237, "g", "in") == "1 lb"
    assert quantity_shown(2.7676e7, "mm³", "mm") == "27.676 L"
    assert quantity_shown(54321, "mm³", "mm") == "54321 mm³"
    assert quantity_shown(16387.064e3, "mm³", "in") == "1000 in³"


@pytest.mark.parametrize("number", [16, 21, 27])
def test_a_mesh_is_measured_in_both_directions_and_holds_what_it_allows(number, tmp_path):
    """A twisted board, a bolt with its nut, a fine nut; the volume may be off by what such a skin holds."""
    part, file = part_of(demo(number)), tmp_path / "part.stl"
    error = 3 * part.usual_chord_error
    proof = build_files(part, [file], error)[".stl"]
    off = max(proof["shape_off_mesh"], proof["mesh_off_shape"])
    assert 0.05 * error < off <= error
    assert (
        proof["relative_error"]
        <= proof["allowed"]
        <= 1.01 * off * trimesh.load(file).area / part.volume + 2e-5
    )


def test_a_mesh_that_is_too_far_off_is_made_again_and_then_refused(spring, monkeypatch, tmp_path):
    part, asked = part_of(spring), []

    def made(error):
        asked.append(error)
        return part.bodies[0].mesh(0.5).vertices, part.bodies[0].mesh(0.5).faces

    with pytest.raises(TooFarOff, match="mm off the shape"):
        proven(part, 0.01, lambda error: trimesh.Trimesh(*made(error)))
    assert asked == pytest.approx([0.01, 0.006, 0.0035])
