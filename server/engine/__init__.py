"""Questions that the engine answers of a document, nothing stored."""
