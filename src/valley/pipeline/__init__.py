"""The one straight way through: listen, chart, arrange, teach; and the command line on top."""

MAX_MINUTES = 30.0  # longest recording that is listened to
