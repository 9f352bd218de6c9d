"""A build's controller set up: what to set, to what, why, and how it then feels."""
