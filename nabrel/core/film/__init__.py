"""Film optics: spectra recovered from colours, Kubelka–Munk films, stacks of them on skin, lights."""
