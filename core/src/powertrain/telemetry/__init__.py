"""Tables of any logger: read, understood, and searched for what can be learned from."""
