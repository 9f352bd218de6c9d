"""The solver's own arithmetic written down once and run for millions.

The core computes with NumPy, one operation on an array at a time. Asked about millions of
candidates that costs more in moving arrays about than in reckoning. So the very same code is run
once with numbers that only note what is done to them (`numbers`), and the note is run for all
candidates as one compiled loop (`program`, `compiled`). No formula is written twice, and
nothing here knows of motors.
"""
