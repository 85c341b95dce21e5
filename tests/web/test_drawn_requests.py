"""Requests drawn from the API's own description: none is answered with a fault of the server, and none holds it up.

``make fuzz`` sends thousands; the usual run a few for every address, the same every time.
"""

import json
import os
import random
import time
import warnings
from typing import Any
from urllib.parse import urlencode

import pytest
import schemathesis
from hypothesis import HealthCheck, Phase, given, seed, settings
from hypothesis import strategies as st

from tests.web.conftest import PageClient
from tests.web.test_every_address import DESCRIPTION
from valley_web.songs.models import Song

TIMES = int(os.environ.get("VALLEY_FUZZ_TIMES", "0"))  # examples of each address; 0 is a slice for every day: two of every fifth
_LONGEST = 10.0  # seconds
_AMOUNTS = ("0", "1", "4", "1/2", "7/3", "-1", "3.5", "16", "999999", "1/0", "nan", "1e9999", "", "x", "²", "1/3/5")
_IDS = {"number": (1, 2, 0), "revision": (1, 2, 99), "job_id": (1,), "name": ("lesson.txt", "score.musicxml", "x")}

schemathesis.openapi.format("fraction", st.sampled_from(_AMOUNTS))
OPERATIONS = [o.ok() for o in schemathesis.openapi.from_dict(DESCRIPTION).get_all_operations()]
TRIED = OPERATIONS if TIMES else OPERATIONS[::5]


def send(site: PageClient, case: Any, song: Song, rng: random.Random) -> Any:
    """One request, about the song that is there: what is drawn for its number would only be told that there is none."""
    path = case.operation.path
    for name in case.path_parameters or {}:
        value = song.pk if name == "song_id" or rng.random() < 0.7 else rng.choice(_IDS.get(name, (1, 987_654)))
        path = path.replace(f"{{{name}}}", str(value))
    query = urlencode({k: v for k, v in (case.query or {}).items() if v is not None}, doseq=True, errors="replace")
    body = case.body if case.media_type == "application/json" else None
    if isinstance(body, dict) and "revision" in body and rng.random() < 0.7:
        song.refresh_from_db()
        body = body | {"revision": song.revision}
    return site.generic(
        case.operation.method.upper(),
        f"{path}?{query}" if query else path,
        json.dumps(body) if body is not None else "",
        content_type="application/json",
        headers={"X-CSRFToken": site.token},
    )


@pytest.mark.parametrize("operation", TRIED, ids=lambda o: o.label)
def test_nothing_drawn_from_the_description_is_a_fault(site: PageClient, heard_song: Song, operation: Any) -> None:
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        cases = operation.as_strategy()

    @seed(len(operation.label))
    @settings(max_examples=TIMES or 2, deadline=None, phases=[Phase.generate], suppress_health_check=list(HealthCheck), database=None)
    @given(cases, st.integers(0, 2**32))
    def check(case: Any, chance: int) -> None:
        began = time.perf_counter()
        answer = send(site, case, heard_song, random.Random(chance))
        body = b"" if answer.streaming else answer.content
        assert answer.status_code < 500, (operation.label, body[:300])
        if answer.status_code >= 400:
            assert json.loads(body), operation.label
        assert time.perf_counter() - began < _LONGEST, operation.label

    check()
