"""The kinds of springs that are summed."""

from metaspira.springs.compression import Compression
from metaspira.springs.extension import Extension
from metaspira.springs.nested import Nested
from metaspira.springs.spiral import Spiral
from metaspira.springs.torsion import Torsion

AnySpring = Compression | Extension | Torsion | Spiral | Nested
