"""What the output shaft of a drive turns: wheels on a road, a hoist's drum."""
