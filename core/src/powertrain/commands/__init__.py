"""The commands, a module for each few that are alike; only the one that is asked is loaded."""
