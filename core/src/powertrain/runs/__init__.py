"""Rides: a course, a driver, and what the drive does over time as it warms and runs down."""
