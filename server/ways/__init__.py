"""The ways to change speed over HTTP: questions about a build, with the whole shelf at hand."""
