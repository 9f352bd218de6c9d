"""The logbook of a build: what was measured, and what it teaches."""
