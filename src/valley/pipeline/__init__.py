"""The one straight way through: listen, chart, arrange, teach; and the command line on top."""
