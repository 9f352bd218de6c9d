"""Measurements, outside the test run: bin/bench."""
