"""Briefs and the searches that answer them."""
