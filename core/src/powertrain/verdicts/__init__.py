"""Judgements: is a limit kept, by how much, and what would cure it if not.

A rule is one file in `powertrain.verdicts.rules`; it is found there by itself.
"""
