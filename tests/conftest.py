"""How random tests are run, in one place.

No example has to be quick, because a busy machine is no fault. A run is the same every time, so that a red one is red because of what was changed; new
examples are sought with `make explore`, which is random and tries more of them.
"""

import os

from hypothesis import HealthCheck, Phase, settings

# The usual examples are the same in every run, and a failure is told as it was found: making it smaller takes minutes, which is for "explore".
settings.register_profile("valley", deadline=None, suppress_health_check=[HealthCheck.too_slow], derandomize=True, phases=[Phase.explicit, Phase.generate])
settings.register_profile("explore", deadline=None, suppress_health_check=[HealthCheck.too_slow], print_blob=True)
settings.load_profile(os.environ.get("VALLEY_EXAMPLES", "valley"))
