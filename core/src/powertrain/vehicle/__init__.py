"""The vehicle: what the road and the air ask of it."""
