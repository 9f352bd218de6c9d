"""How sure a figure is: tolerances of what went in, bands of what comes out, what to measure."""
