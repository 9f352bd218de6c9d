"""What a person does to their builds: one function each, with a user and plain values."""
