"""The section as a drawing, across and through the axis."""

from __future__ import annotations

from metaspira.cli.building import command_for

add_to, run = command_for("section")
