"""One rule a file; each has a function ``judge(case)`` that yields what it has to say."""
