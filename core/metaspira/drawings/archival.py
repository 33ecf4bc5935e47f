"""PDF/A-2u (ISO 19005-2): a PDF whose typefaces are all embedded, with the colours that it is meant in and
its metadata."""

from __future__ import annotations

import io
import struct
from functools import cache

import pikepdf
from PIL import ImageCms

from metaspira.parts.identity import SYSTEM


def archival(data: bytes, title: str) -> bytes:
    """The bytes of a PDF as PDF/A-2u; the same for the same."""
    with pikepdf.open(io.BytesIO(data)) as pdf:
        profile = pdf.make_stream(_srgb())
        profile.N = 3
        intent = pikepdf.Dictionary(
            Type=pikepdf.Name.OutputIntent,
            S=pikepdf.Name("/GTS_PDFA1"),
            OutputConditionIdentifier="sRGB IEC61966-2.1",
            DestOutputProfile=profile,
        )
        pdf.Root.OutputIntents = pikepdf.Array([pdf.make_indirect(intent)])
        del pdf.docinfo
        with pdf.open_metadata(set_pikepdf_as_editor=False, update_docinfo=False) as about:
            about["pdfaid:part"] = "2"
            about["pdfaid:conformance"] = "U"
            about["dc:title"] = title
            about["xmp:CreatorTool"] = SYSTEM
        out = io.BytesIO()
        pdf.save(out, deterministic_id=True)
    return out.getvalue()


@cache
def _srgb() -> bytes:
    """The profile of the colours, without the time at which it was made (ICC.1, 7.2.8)."""
    data = ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB")).tobytes()
    return data[:24] + struct.pack(">6H", 2000, 1, 1, 0, 0, 0) + data[36:]
