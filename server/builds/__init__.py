"""Builds: kept, changed, compared, never lost."""
