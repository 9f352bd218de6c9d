"""One's data as a whole: taken out and brought in, what is kept how long, and how large it is."""
