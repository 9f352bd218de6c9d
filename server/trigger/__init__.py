"""Drives by hand: the trigger held on a page, and the drive that follows it in time."""
