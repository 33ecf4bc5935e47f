"""Springs under load: wires, forces, stresses, limits, and the shape that the load gives them."""
