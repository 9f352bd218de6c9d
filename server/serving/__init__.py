"""How the product answers many at once: what is heavy waits its turn, what is light never does."""
