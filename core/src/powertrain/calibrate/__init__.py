"""What was measured teaches a build: readings, what the engine says of them, and the fit."""
