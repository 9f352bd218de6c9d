"""What a person does with parts of their own: one function each."""
