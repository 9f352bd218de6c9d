"""A shop's line of text, understood field by field."""
