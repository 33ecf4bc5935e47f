"""What the members of a joint are made of: property classes and materials, with strengths at 20 °C."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Literal

from pydantic import Field

from metaspira.numbers.fields import Stress
from metaspira.numbers.kind import Kind, Words

_STEEL, _STAINLESS, _IRON, _ALUMINIUM, _BRONZE, _BRASS, _TITANIUM = (
    205e3, 193e3, 110e3, 70e3, 110e3, 97e3, 110e3,
)  # fmt: skip
_THICK = 16.0
_BOLT = "ISO 898-1; shear as a share of strength VDI 2230; not checked against the printed standards"
_STAINLESS_BOLT = (
    "ISO 3506-1; shear as a share of strength VDI 2230; not checked against the printed standards"
)
_SAE = "SAE J429; shear common practice; not checked against the printed standard"
_NUT = (
    "least hardness of ISO 898-2, strength after ISO 18265, shear common practice; not checked against the "
    "printed standards"
)
_METAL = "usual least values; not checked against a printed standard"


@dataclass(frozen=True)
class Metal:
    """Least tensile strength, yield and proof stress, MPa; shear strength as a share of the tensile one;
    Young's modulus, MPa."""

    name: str
    title: str
    strength: float
    yields: float
    proof: float
    shear: float
    modulus: float
    source: str


Class = Annotated[
    Literal[
        "4.6", "4.8", "5.6", "5.8", "6.8", "8.8", "9.8", "10.9", "12.9", "A2-50", "A2-70", "A2-80", "A4-70",
        "A4-80", "SAE 2", "SAE 5", "SAE 8", "nut 5", "nut 6", "nut 8", "nut 10", "nut 12", "S235", "C45",
        "42CrMo4", "1.4301", "GJL-250", "GJS-400", "AW-6082", "CuSn8", "CuZn39Pb3", "Ti-6Al-4V",
    ],
    Words(
        {
            "4.6": "property class 4.6", "4.8": "property class 4.8", "5.6": "property class 5.6",
            "5.8": "property class 5.8", "6.8": "property class 6.8", "8.8": "property class 8.8",
            "9.8": "property class 9.8", "10.9": "property class 10.9", "12.9": "property class 12.9",
            "A2-50": "stainless A2-50", "A2-70": "stainless A2-70", "A2-80": "stainless A2-80",
            "A4-70": "stainless A4-70", "A4-80": "stainless A4-80", "SAE 2": "SAE grade 2",
            "SAE 5": "SAE grade 5", "SAE 8": "SAE grade 8", "nut 5": "nut of class 5",
            "nut 6": "nut of class 6", "nut 8": "nut of class 8", "nut 10": "nut of class 10",
            "nut 12": "nut of class 12", "S235": "steel S235JR", "C45": "steel C45, normalized",
            "42CrMo4": "steel 42CrMo4, quenched and tempered", "1.4301": "stainless 1.4301",
            "GJL-250": "grey iron EN-GJL-250", "GJS-400": "ductile iron EN-GJS-400",
            "AW-6082": "aluminium EN AW-6082 T6", "CuSn8": "bronze CuSn8", "CuZn39Pb3": "brass CuZn39Pb3",
            "Ti-6Al-4V": "titanium Ti-6Al-4V",
        }
    ),
]  # fmt: skip


class OwnMetal(Kind):
    """A material of one's own: tensile and yield strength, MPa, and its shear strength."""

    name: str = Field(default="own material", max_length=60)
    strength: Stress
    yields: Stress = Field(title="Yield strength")
    shear: Stress = Field(title="Shear strength")
    modulus: Stress = Field(default=_STEEL, title="E")


_BOLTS: dict[str, tuple[float, float, float, float]] = {
    "4.6": (400, 240, 225, 0.70), "4.8": (420, 340, 310, 0.70), "5.6": (500, 300, 280, 0.70),
    "5.8": (520, 420, 380, 0.70), "6.8": (600, 480, 440, 0.65), "8.8": (800, 640, 580, 0.65),
    "9.8": (900, 720, 650, 0.65), "10.9": (1040, 940, 830, 0.62), "12.9": (1220, 1100, 970, 0.60),
}  # fmt: skip
_THICKER = {"8.8": (830.0, 660.0, 600.0, 0.65)}
_OF_STAINLESS: dict[str, tuple[float, float, float]] = {
    "A2-50": (500, 210, 0.80), "A2-70": (700, 450, 0.72), "A2-80": (800, 600, 0.72),
    "A4-70": (700, 450, 0.72), "A4-80": (800, 600, 0.72),
}  # fmt: skip
_SAE_GRADES: dict[str, tuple[float, float, float]] = {
    "SAE 2": (510, 393, 379), "SAE 5": (827, 634, 586), "SAE 8": (1034, 896, 827)
}  # fmt: skip
_NUTS: dict[str, float] = {"nut 5": 415, "nut 6": 480, "nut 8": 640, "nut 10": 865, "nut 12": 945}
_METALS: dict[str, tuple[float, float, float, float]] = {
    "S235": (360, 235, 0.65, _STEEL), "C45": (580, 305, 0.65, _STEEL), "42CrMo4": (1000, 750, 0.62, _STEEL),
    "1.4301": (500, 190, 0.80, _STAINLESS), "GJL-250": (250, 165, 1.40, _IRON),
    "GJS-400": (400, 250, 0.90, 169e3), "AW-6082": (290, 250, 0.65, _ALUMINIUM),
    "CuSn8": (390, 200, 0.60, _BRONZE), "CuZn39Pb3": (400, 200, 0.60, _BRASS),
    "Ti-6Al-4V": (890, 820, 0.60, _TITANIUM),
}  # fmt: skip


def metal(asked: str | OwnMetal, diameter: float) -> Metal:
    """A material of a member of a nominal diameter, mm; proof stress is yield where no other is set."""
    if isinstance(asked, OwnMetal):
        return Metal(
            asked.name, asked.name, asked.strength, asked.yields, asked.yields, asked.shear / asked.strength,
            asked.modulus, "as typed",
        )  # fmt: skip
    if asked in _BOLTS:
        rows = _THICKER if diameter > _THICK and asked in _THICKER else _BOLTS
        strength, yields, proof, shear = rows[asked]
        return Metal(asked, asked, strength, yields, proof, shear, _STEEL, _BOLT)
    if asked in _OF_STAINLESS:
        strength, yields, shear = _OF_STAINLESS[asked]
        return Metal(asked, asked, strength, yields, yields, shear, _STAINLESS, _STAINLESS_BOLT)
    if asked in _SAE_GRADES:
        strength, yields, proof = _SAE_GRADES[asked]
        return Metal(asked, asked, strength, yields, proof, 0.6, _STEEL, _SAE)
    if asked in _NUTS:
        strength = _NUTS[asked]
        return Metal(asked, asked, strength, strength, strength, 0.65, _STEEL, _NUT)
    strength, yields, shear, modulus = _METALS[asked]
    return Metal(asked, asked, strength, yields, yields, shear, modulus, _METAL)
