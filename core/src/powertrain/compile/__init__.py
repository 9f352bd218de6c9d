"""From what a document states to numbers: one build, or many at once by columns.

Nothing below this package sees a document; what is above it solves and judges numbers, and goes
back to the document only for words.
"""
