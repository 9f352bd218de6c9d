"""The pack: what it rests at, how it sags, what its chemistry allows."""
