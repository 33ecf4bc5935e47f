"""Threads held against printed sizes."""


def demand_sizes(thread, wanted):
    """Each size, to three decimals, by its place such as “external.pitch.max”."""
    for place, value in wanted.items():
        side, diameter, limit = place.split(".")
        assert round(getattr(getattr(getattr(thread, side), diameter), limit), 3) == value, place
