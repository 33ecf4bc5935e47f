"""The families of cases, a module each."""
