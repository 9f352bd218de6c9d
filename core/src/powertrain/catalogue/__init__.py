"""The shelf to look through: what parts say, what they leave out, what fits."""
