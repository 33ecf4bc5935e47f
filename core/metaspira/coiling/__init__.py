"""From a coil to the settings of a wire former."""
