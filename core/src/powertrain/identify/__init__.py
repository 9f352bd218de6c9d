"""What a part's constants are, from whatever is known of it.

A route is a function of the facts: it yields findings, each with how far off it may be. Findings
that contradict one another are reported, not averaged.
"""
