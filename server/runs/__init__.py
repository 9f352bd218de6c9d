"""Rides over HTTP: a build on a course."""
