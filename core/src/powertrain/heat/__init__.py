"""Heat: where it is stored, how it leaves, and when a part is too hot."""
