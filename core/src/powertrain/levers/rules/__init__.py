"""One kind of lever a file; each has a function ``levers(build)`` that yields its levers."""
