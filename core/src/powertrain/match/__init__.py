"""From a wish to ranked drives: every combination on a shelf considered, with the reasons."""
