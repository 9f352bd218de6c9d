"""Stand-ins for instruments: a hidden vehicle near a build, read with noise and resolution."""
