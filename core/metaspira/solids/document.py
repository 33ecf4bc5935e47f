"""A STEP file as a document: named products with their colours, material and properties, and a header that
says whose it is."""

from __future__ import annotations

import re
from collections.abc import Iterable
from pathlib import Path as FilePath

from OCP.APIHeaderSection import APIHeaderSection_MakeHeader
from OCP.IFSelect import IFSelect_ReturnStatus
from OCP.Interface import Interface_InterfaceModel, Interface_Static
from OCP.Quantity import Quantity_Color, Quantity_TypeOfColor
from OCP.STEPCAFControl import STEPCAFControl_Controller, STEPCAFControl_Writer
from OCP.STEPControl import STEPControl_StepModelType
from OCP.StepRepr import StepRepr_PropertyDefinition
from OCP.TCollection import TCollection_ExtendedString, TCollection_HAsciiString
from OCP.TDataStd import TDataStd_Name, TDataStd_NamedData
from OCP.TDF import TDF_Label
from OCP.TDocStd import TDocStd_Document
from OCP.TopLoc import TopLoc_Location
from OCP.XCAFDoc import XCAFDoc_ColorType, XCAFDoc_DocumentTool

from metaspira.parts import AnyPart
from metaspira.parts.identity import SYSTEM, Identity, body_names, identity_of
from metaspira.parts.properties import properties_of
from metaspira.solids.brep import Built
from metaspira.solids.proof import ProofError

_SURFACE = XCAFDoc_ColorType.XCAFDoc_ColorSurf
_BEYOND = re.compile(r"[^\x00-\x7f]+")


def write_document(part: AnyPart, shapes: list[Built], file: FilePath, schema: str) -> None:
    """Write the shapes of a part's bodies, in their order: one product, or an assembly of them. Raises
    ProofError."""
    document = TDocStd_Document(TCollection_ExtendedString("XmlXCAF"))
    tool = XCAFDoc_DocumentTool.ShapeTool_s(document.Main())
    labels = [tool.AddShape(built.shape, False, False) for built in shapes]
    names = body_names(part)
    whole = labels[0]
    if len(labels) > 1:
        whole = tool.NewShape()
        for label, name in zip(labels, names, strict=True):
            _name(tool.AddComponent(whole, label, TopLoc_Location()), name)
            _name(label, name)
        tool.UpdateAssemblies()
    _name(whole, part.recipe.name)
    _describe(whole, properties_of(part))
    _paint(document, part, labels, shapes)
    STEPCAFControl_Controller.Init_s()
    Interface_Static.SetCVal_s("write.step.unit", "MM")
    Interface_Static.SetCVal_s("write.step.schema", schema)
    step = STEPCAFControl_Writer()
    step.SetMaterialMode(True)
    step.SetMetadataMode(True)
    step.Transfer(document, STEPControl_StepModelType.STEPControl_AsIs)
    model = step.ChangeWriter().Model(False)
    _head(APIHeaderSection_MakeHeader(model), identity_of(part))
    _materials_last(model)
    if step.Write(str(file)) != IFSelect_ReturnStatus.IFSelect_RetDone:
        raise ProofError("the kernel did not write the STEP file")
    _in_plain_letters(file)


def _name(label: TDF_Label, name: str) -> None:
    TDataStd_Name.Set_s(label, _text(name))


def _describe(label: TDF_Label, properties: Iterable[tuple[str, str]]) -> None:
    data = TDataStd_NamedData.Set_s(label)
    for title, value in properties:
        data.SetString(_text(title), _text(value))


def _paint(document: TDocStd_Document, part: AnyPart, labels: list[TDF_Label], shapes: list[Built]) -> None:
    colours = XCAFDoc_DocumentTool.ColorTool_s(document.Main())
    materials = XCAFDoc_DocumentTool.MaterialTool_s(document.Main())
    metal = part.material
    words = (_ascii(metal.name), _ascii(part.typed.name), metal.density * 1e3)
    of = materials.AddMaterial(*words, _ascii("density measure"), _ascii("POSITIVE_RATIO_MEASURE"))
    for label, built in zip(labels, shapes, strict=True):
        materials.SetMaterial(label, of)
        colours.SetColor(label, _colour(metal.colour), _SURFACE)
        tool = XCAFDoc_DocumentTool.ShapeTool_s(document.Main())
        for face, colour in built.painted:
            colours.SetColor(tool.AddSubShape(label, face), _colour(colour), _SURFACE)


def _head(header: APIHeaderSection_MakeHeader, identity: Identity) -> None:
    block = identity.block
    header.SetName(_ascii(identity.title))
    header.SetDescriptionValue(
        1, _ascii(" ".join(filter(None, (block.number, block.revision, identity.title))))
    )
    header.SetAuthorValue(1, _ascii(block.creator))
    header.SetOrganizationValue(1, _ascii(block.owner))
    header.SetAuthorisation(_ascii(block.approver))
    header.SetOriginatingSystem(_ascii(SYSTEM))
    header.SetPreprocessorVersion(_ascii(SYSTEM))
    header.SetTimeStamp(_ascii(identity.stamp))


def _materials_last(model: Interface_InterfaceModel) -> None:
    """The kernel's own reader takes the last property of a product for its material."""
    entities = [model.Value(k) for k in range(1, model.NbEntities() + 1)]
    properties = [k for k, one in enumerate(entities, 1) if isinstance(one, StepRepr_PropertyDefinition)]
    of_material = [k for k in properties if entities[k - 1].Name().ToCString() == "material property"]
    for moved, k in enumerate(k for k in properties if k > of_material[-1]):
        model.ChangeOrder(k, of_material[0] + moved, 1)


def _colour(written: str) -> Quantity_Color:
    red, green, blue = (int(written[k : k + 2], 16) / 255 for k in (1, 3, 5))
    return Quantity_Color(red, green, blue, Quantity_TypeOfColor.Quantity_TOC_sRGB)


def _text(words: str) -> TCollection_ExtendedString:
    return TCollection_ExtendedString(words, True)


def _ascii(words: str) -> TCollection_HAsciiString:
    return TCollection_HAsciiString(words)


def _in_plain_letters(file: FilePath) -> None:
    """Write the letters that ASCII has not as ISO 10303-21 has them, which every reader understands."""
    text = file.read_text(encoding="utf-8")
    if not text.isascii():
        file.write_text(_BEYOND.sub(_coded, text), encoding="ascii")


def _coded(found: re.Match[str]) -> str:
    wide = any(ord(letter) > 0xFFFF for letter in found[0])
    size, codec = (4, "utf-32-be") if wide else (2, "utf-16-be")
    return f"\\X{size}\\{found[0].encode(codec).hex().upper()}\\X0\\"
