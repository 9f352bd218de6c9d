"""Gearing over HTTP: questions about a build, with the whole shelf at hand."""
