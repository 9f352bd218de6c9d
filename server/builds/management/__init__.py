"""Commands of the app."""
