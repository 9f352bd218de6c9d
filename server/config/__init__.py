"""Settings, addresses and the shared ways of the server."""
