"""The shelf that ships: invented parts, made by rules that real ones follow."""
