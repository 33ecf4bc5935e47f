"""Reference bodies: what the coil must keep clear of. They come from files and stand in the recipe as plain
triangles."""
