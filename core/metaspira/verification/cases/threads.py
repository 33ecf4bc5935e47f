"""Sizes and limits of threads."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from metaspira.threads.gauging import as_dict
from metaspira.threads.lookup import read_thread
from metaspira.verification.row import Row, printed

_EXTERNAL = ("external major max", "external major min", "external pitch max", "external pitch min")
_INTERNAL = ("internal pitch max", "internal minor max", "internal minor min")

# In the order of _EXTERNAL and _INTERNAL; the text as it is printed says how many digits are held.
_METRIC = {
    "M3": "2.980 2.874 2.655 2.580 2.775 2.599 2.459",
    "M5": "4.976 4.826 4.456 4.361 4.605 4.334 4.134",
    "M6": "5.974 5.794 5.324 5.212 5.500 5.153 4.917",
    "M8": "7.972 7.760 7.160 7.042 7.348 6.912 6.647",
    "M10": "9.968 9.732 8.994 8.862 9.206 8.676 8.376",
    "M12": "11.966 11.701 10.829 10.679 11.063 10.441 10.106",
    "M16": "15.962 15.682 14.663 14.503 14.913 14.210 13.835",
    "M20": "19.958 19.623 18.334 18.164 18.600 17.744 17.294",
    "M24": "23.952 23.577 22.003 21.803 22.316 21.252 20.752",
    "M36": "35.940 35.465 33.342 33.118 33.702 32.270 31.670",
    "M10x1": "9.974 9.794 9.324 9.212 9.500 9.153 8.917",
}
_UNIFIED = {
    "#10-24 UNC": "0.1890 0.1818 0.1619 0.1586 0.1672 0.156 0.145",
    "1/4-20 UNC": "0.2489 0.2408 0.2164 0.2127 0.2224 0.207 0.196",
    "5/16-18 UNC": "0.3113 0.3026 0.2752 0.2712 0.2817 0.265 0.252",
    "3/8-16 UNC": "0.3737 0.3643 0.3331 0.3287 0.3401 0.321 0.307",
    "1/2-13 UNC": "0.4985 0.4876 0.4485 0.4435 0.4565 0.434 0.417",
    "3/4-10 UNC": "0.7482 0.7353 0.6832 0.6773 0.6927 0.663 0.642",
    "1-8 UNC": "0.9980 0.9830 0.9168 0.9100 0.9276 0.890 0.865",
    "1/4-28 UNF": "0.2490 0.2425 0.2258 0.2225 0.2311 0.220 0.211",
}
_MINOR = {  # least and most of class 2B, then of 3B
    "#2-56 UNC": "0.0667 0.0737",
    "#4-40 UNC": "0.0849 0.0939 0.0849 0.0939",
    "#6-32 UNC": "0.104 0.114 0.1040 0.1140",
    "#8-32 UNC": "0.130 0.139 0.1300 0.1389",
    "#10-24 UNC": "0.145 0.156 0.1450 0.1555",
    "#10-32 UNF": "0.156 0.164 0.1560 0.1641",
    "1/4-20 UNC": "0.196 0.207 0.1960 0.2067",
    "5/16-18 UNC": "0.252 0.265",
    "3/8-16 UNC": "0.307 0.321 0.3070 0.3182",
    "7/16-14 UNC": "0.360 0.376",
    "1/2-13 UNC": "0.417 0.434 0.4170 0.4284",
    "9/16-12 UNC": "0.472 0.490",
    "5/8-11 UNC": "0.527 0.546",
    "3/4-10 UNC": "0.642 0.663 0.6420 0.6545",
    "7/8-9 UNC": "0.755 0.778",
    "1-8 UNC": "0.865 0.890",
}
_ALLOWANCE = {
    "#4-40 UNC": "0.0008", "#6-32 UNC": "0.0008", "#8-32 UNC": "0.0009", "#10-24 UNC": "0.0010",
    "#10-32 UNF": "0.0009", "1/4-20 UNC": "0.0011", "1/4-28 UNF": "0.0010", "5/16-18 UNC": "0.0012",
    "5/16-24 UNF": "0.0011", "3/8-16 UNC": "0.0013", "3/8-24 UNF": "0.0011", "7/16-14 UNC": "0.0014",
    "7/16-20 UNF": "0.0013", "1/2-13 UNC": "0.0015", "1/2-20 UNF": "0.0013", "9/16-12 UNC": "0.0016",
    "9/16-18 UNF": "0.0014", "5/8-11 UNC": "0.0016", "5/8-18 UNF": "0.0014", "3/4-10 UNC": "0.0018",
    "3/4-16 UNF": "0.0015", "7/8-9 UNC": "0.0019", "7/8-14 UNF": "0.0016", "1-8 UNC": "0.0020",
    "1-12 UNF": "0.0018", "1 1/8-7 UNC": "0.0022", "1 1/4-7 UNC": "0.0022", "1 3/8-6 UNC": "0.0024",
    "1 1/2-6 UNC": "0.0024", "1 3/4-5 UNC": "0.0027", "2-4.5 UNC": "0.0029",
}  # fmt: skip
_SINGLE = (
    ("ISO 965-1", "M10-4h", "external pitch min", "8.941"),
    ("ISO 965-1", "M10-4h", "external major max", "10.000"),
    ("ISO 965-1", "M10-8g", "external pitch min", "8.782"),
    ("ISO 965-1", "M10-8g", "external major min", "9.593"),
    ("ISO 965-1", "M10-6e", "external major max", "9.933"),
    ("ISO 965-1", "M10-5H", "internal pitch max", "9.166"),
    ("ISO 965-1", "M10-5H", "internal minor max", "8.612"),
    ("ISO 965-1", "M10-6G", "internal pitch min", "9.058"),
    ("ISO 965-1", "M10-6G", "internal minor min", "8.408"),
    ("ISO 965-1", "M10-5g6g", "external pitch min", "8.888"),
    ("ISO 965-2", "M1", "internal pitch min", "0.838"),
    ("ISO 965-2", "M1", "internal pitch max", "0.894"),
    ("ISO 965-2", "M1.4", "internal pitch min", "1.205"),
    ("ISO 965-2", "M1.4", "internal pitch max", "1.265"),
    ("ISO 965-2", "M1.6", "internal pitch min", "1.373"),
    ("ISO 965-2", "M1.6", "internal pitch max", "1.458"),
    ("ISO 228-1", "G 1/2", "external major basic", "20.955"),
    ("ISO 228-1", "G 1/2", "external pitch min", "19.651"),
    ("ISO 228-1", "G 1/2", "internal minor max", "19.172"),
    ("ISO 228-1", "G 1 B", "external pitch min", "31.410"),
    ("ISO 228-1", "G 1 B", "external major min", "32.889"),
    ("ISO 2904", "Tr40x7", "external minor basic", "32.000"),
    ("ISO 2904", "Tr40x7", "internal major basic", "41.000"),
    ("ISO 2903", "Tr40x7", "external pitch max", "36.375"),
    ("ISO 2903", "Tr40x7", "external pitch min", "36.020"),
    ("ISO 2903", "Tr40x7", "external major min", "39.575"),
    ("ISO 2903", "Tr40x7", "internal minor max", "33.560"),
    ("ISO 2904", "Tr10x2", "external pitch basic", "9.000"),
    ("ISO 2904", "Tr10x2", "external minor basic", "7.500"),
    ("DIN 513", "S40x7", "external pitch basic", "34.750"),
    ("DIN 513", "S40x7", "external minor basic", "27.851"),
    ("DIN 513", "S40x7", "internal minor basic", "29.500"),
    ("DIN 405", "Rd40x1/6", "external pitch basic", "37.883"),
    ("DIN 405", "Rd40x1/6", "external minor basic", "35.767"),
    ("DIN 405", "Rd40x1/6", "internal major basic", "40.423"),
    ("BS 93", "0 BA", "external pitch basic", "5.400"),
    ("BS 93", "2 BA", "external pitch basic", "4.215"),
    ("BS 93", "2 BA", "internal minor max", "4.034"),
    ("BS 93", "2 BA close", "external pitch min", "4.130"),
    ("BS 93", "4 BA", "external pitch basic", "3.205"),
    ("BS 93", "4 BA", "external minor basic", "2.810"),
    ("ISO 5855-2", "MJ10x1.5", "external minor basic", "8.268"),
    ("ISO 5855-2", "MJ10x1.5", "internal minor min", "8.539"),
    ("ISO 5855-2", "MJ10x1.5-4H5H", "internal minor max", "8.775"),
    ("ISO 5855-2", "MJ6x1-4h6h", "external pitch max", "5.350"),
    ("ISO 5855-2", "MJ6x1-4h6h", "external pitch min", "5.279"),
    ("DIN 8140-2", "EG M10", "internal major basic", "11.949"),
    ("DIN 8140-2", "EG M10", "internal pitch basic", "10.974"),
    ("DIN 8140-2", "EG M8", "internal minor basic", "8.271"),
    ("DIN 8140-2", "EG M6", "internal major basic", "7.299"),
    ("DIN 40430", "Pg16", "external major basic", "22.500"),
    ("DIN 40430", "Pg16", "external minor basic", "21.160"),
    ("DIN 40400", "E27", "external major basic", "26.450"),
    ("DIN 40400", "E27", "external minor basic", "24.260"),
)
_SINGLE_INCH = (
    ("ASME B1.5", "1/2-10 ACME-2G", "external pitch max", "0.4443"),
    ("ASME B1.5", "1/2-10 ACME-2G", "external pitch min", "0.4306"),
    ("ASME B1.5", "1/2-10 ACME-2G", "internal pitch max", "0.4637"),
    ("BS 84", "1/2 BSW", "external pitch basic", "0.4466"),
    ("BS 84", "1/2 BSW", "external minor basic", "0.3933"),
    ("ASME B1.20.1", "1/8-27 NPSM", "external pitch max", "0.3725"),
    ("ASME B1.20.1", "1/8-27 NPSM", "external pitch min", "0.3689"),
    ("ASME B1.20.1", "1/8-27 NPSM", "internal pitch max", "0.3783"),
    ("ASME B1.20.1", "1/2-14 NPSC", "internal pitch min", "0.7717"),
    ("ASME B1.20.1", "1/2-14 NPSC", "internal pitch max", "0.7851"),
    ("ASME B1.20.7", "3/4-11.5 NH", "external major basic", "1.0625"),
    ("ASME B1.20.7", "3/4-11.5 NH", "external pitch basic", "1.0060"),
)


def rows() -> Iterator[Row]:
    for designation, text in _METRIC.items():
        yield from _table(designation, text, "mm", "ISO 965-2")
    for designation, text in _UNIFIED.items():
        yield from _table(designation, text, "in", "ASME B1.1, table 2")
    for designation, text in _MINOR.items():
        limits = [(f"{designation}-{grade}", end) for grade in ("2B", "3B") for end in ("min", "max")]
        for (name, end), value in zip(limits, text.split(), strict=False):
            yield _single(name, f"internal minor {end}", value, "in", "ASME B1.1, table 2")
    for designation, value in _ALLOWANCE.items():
        pitch = _told(designation, "in")["external"]["pitch"]
        ours = pitch["basic"] - pitch["max"]
        yield printed(
            ("pitch_diameter",), f"{designation}-2A, allowance", value, ours, "in", "ASME B1.1, table 2"
        )
    for source, designation, place, value in _SINGLE:
        yield _single(designation, place, value, "mm", source)
    for source, designation, place, value in _SINGLE_INCH:
        yield _single(designation, place, value, "in", source)


def _table(designation: str, text: str, unit: str, source: str) -> Iterator[Row]:
    for place, value in zip((*_EXTERNAL, *_INTERNAL), text.split(), strict=True):
        yield _single(designation, place, value, unit, source)


def _single(designation: str, place: str, value: str, unit: str, source: str) -> Row:
    side, diameter, limit = place.split()
    ours = _told(designation, unit)[side][diameter][limit]
    words = "basic" if limit == "basic" else {"min": "least", "max": "most"}[limit]
    case = f"{designation}, {side} {diameter} diameter, {words}"
    return printed((f"{diameter}_diameter",), case, value, ours, unit, source)


def _told(designation: str, unit: str) -> dict[str, Any]:
    told = as_dict(read_thread(designation))
    return told["inch"] if unit == "in" else told
