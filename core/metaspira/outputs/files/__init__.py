"""The files, a module each or a module for what stands together; LISTED tells their order."""
