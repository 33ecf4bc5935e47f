"""Threads: the standards' sizes and limits, the forms, and the helical surface that they make."""
