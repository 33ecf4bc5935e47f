"""Simulated devices that stand in for those of a workshop. What they report is made up, by physics and a
seeded scatter, and everything that shows it says so."""
