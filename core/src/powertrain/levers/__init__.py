"""Levers: what people really change, one step at a time.

A kind of lever is one file in `powertrain.levers.rules`; it is found there by itself.
"""
