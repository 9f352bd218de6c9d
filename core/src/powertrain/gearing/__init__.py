"""Gearing: teeth, winding and volts, the ways to change speed; each set beside the others."""
