"""A drive in time: its state, one step of it, and many steps at the speed of compiled code."""
