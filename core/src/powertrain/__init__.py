"""The drive of a small electric vehicle: what it does, what it costs in amps and heat.

Pure computation. Nothing in here knows of a server, a database or a screen. Quantities are SI
inside and every name that holds one ends in its unit; the open documents use the units a
builder meets on a data sheet, and say so in their names.
"""
