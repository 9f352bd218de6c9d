"""What the conversion of a vehicle with an engine asks beside its drive."""
