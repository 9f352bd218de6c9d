"""The bench: everything its screen shows of one build, in one answer."""
