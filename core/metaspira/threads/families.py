"""The families of threads, in the order in which a designation is tried. A new one is a module and a line
here."""

from __future__ import annotations

from metaspira.threads.aerospace import RoundRootMetric, RoundRootUnified
from metaspira.threads.american_pipe import AmericanPipe
from metaspira.threads.family import Family
from metaspira.threads.fittings import Conduit, Hose, LampCap
from metaspira.threads.inserts import InsertHole
from metaspira.threads.iso_metric import IsoMetric
from metaspira.threads.one_sided import AmericanButtress, BritishAssociation, Buttress, Round
from metaspira.threads.trapezoidal import Acme, Square, Trapezoidal
from metaspira.threads.unified import Unified
from metaspira.threads.whitworth import ParallelPipe, TaperPipe, Whitworth

FAMILIES: tuple[Family, ...] = (
    IsoMetric(),
    RoundRootMetric(),
    InsertHole(),
    Trapezoidal(),
    ParallelPipe(),
    TaperPipe(),
    AmericanPipe(),
    Whitworth(),
    BritishAssociation(),
    Acme(),
    AmericanButtress(),
    Buttress(),
    Round(),
    Square(),
    Conduit(),
    LampCap(),
    Hose(),
    RoundRootUnified(),
    Unified(),
)
