"""The open formats: what a document may hold, how it is read, changed and compared."""
