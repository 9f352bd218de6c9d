"""Motors: a file for each kind, all of which answer the same questions."""
