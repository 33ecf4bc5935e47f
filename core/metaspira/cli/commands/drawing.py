"""A dimensioned drawing: front, top, section, detail, title block."""

from __future__ import annotations

from metaspira.cli.building import command_for

add_to, run = command_for("drawing")
