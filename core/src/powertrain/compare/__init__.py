"""Builds beside one another on equal terms, and beside a table by vehicle class."""
