"""Parts of one's own beside those that ship."""
