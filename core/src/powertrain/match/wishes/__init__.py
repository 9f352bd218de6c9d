"""A wish a file: each module has `wished(brief)`, which yields what it asks of every candidate."""
