"""The controller: what it lets through, and what it keeps as heat."""
