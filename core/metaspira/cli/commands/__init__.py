"""The commands, a module each: `add_to` adds its arguments, `run` gives its exit status; its docstring is its
help."""
