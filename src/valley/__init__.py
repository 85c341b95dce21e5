"""Valley's core: from a recorded song to a two-handed piano lesson, with no interface code."""

__version__ = "0.1.0"
