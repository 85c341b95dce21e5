"""How random tests are run, in one place: no example has to be quick, because a busy machine is no fault."""

from hypothesis import HealthCheck, settings

settings.register_profile("valley", deadline=None, suppress_health_check=[HealthCheck.too_slow])
settings.load_profile("valley")
