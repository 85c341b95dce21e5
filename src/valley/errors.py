"""The errors of the core. Each carries the offending value and the likely cause in one sentence."""


class ValleyError(Exception):
    """Anything the core refuses; its text is one sentence that a user can act on."""


class ParameterError(ValleyError, ValueError):
    """An argument is outside what the function is defined for."""


class FormatError(ValleyError, ValueError):
    """A document or a symbol could not be read."""


class AudioDecodeError(ValleyError):
    """A file could not be turned into sound."""


class ListeningError(ValleyError):
    """The sound was decoded, but holds nothing that can be charted."""
