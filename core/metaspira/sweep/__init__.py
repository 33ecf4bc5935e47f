"""The sweep: a section carried along a path by frames."""
