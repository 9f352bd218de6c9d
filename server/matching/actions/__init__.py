"""What a person does with briefs and matches: one function each."""
