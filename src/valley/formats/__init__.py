"""Files in and out: one module a format. Bytes or local paths, never a URL."""
