"""The ways to change speed: winding, volts, teeth; each worked out and set beside the others."""
