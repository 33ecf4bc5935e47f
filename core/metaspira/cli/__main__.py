"""`python -m metaspira.cli`."""

from metaspira.cli import main

main()
