"""A propeller: what its blades give and take at a speed of turning and of travelling."""
