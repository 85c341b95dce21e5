"""The commands of ``valley``, one module a stage. A new one adds its parser in its module's ``add`` and is listed here."""

from valley.pipeline.commands import charts, hands, hearing, lessons, theory

MODULES = (hearing, charts, theory, hands, lessons)
