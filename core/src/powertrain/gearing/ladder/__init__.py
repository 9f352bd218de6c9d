"""Every rung of teeth that exist, and the cautious way up them."""
