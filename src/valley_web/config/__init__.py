"""Settings, addresses and the WSGI entry."""
