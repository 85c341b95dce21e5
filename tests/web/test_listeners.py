"""Who listens, beside the database or on another machine: the same promises for both, and what only a listener elsewhere can do wrong."""

import json
import subprocess
import sys
import threading
import time
from collections.abc import Callable, Iterator
from datetime import timedelta
from pathlib import Path
from typing import Any

import django_rq
import numpy as np
import pytest
from django.conf import settings as django_settings
from django.test import Client
from django.utils import timezone
from django_tasks_rq import Job
from redis import Redis
from rq import SimpleWorker

from tests.core.charting.test_from_hearing import HEARING
from tests.web.conftest import PageClient
from valley.formats.hearing_json import dump_hearing
from valley.listening.evidence import Evidence, dump_evidence
from valley_web.songs import doing, listener, tasks
from valley_web.songs.calls import Caller, hear_next
from valley_web.songs.jobs import claim_job
from valley_web.songs.listener import Server
from valley_web.songs.listening import cancel_listening, start_listening
from valley_web.songs.models import HearingRecord, ListeningJob, Revision, Song
from valley_web.songs.services import Upload, add_recording
from valley_web.songs.tasks import LISTENING

State = ListeningJob.State
KEY = "a-key-of-the-tests"
SOCKET = Path(django_settings.DATA_DIR) / "broker.sock"

# A listener's child that has heard at once what the tests know, and says so as the real one does.
CHILD = """
import json, pathlib, shutil, sys
source, name, folder, most = sys.argv[1:]
assert pathlib.Path(source).stat().st_size > 1000 and float(most) > 0
for n in range(3):
    print(json.dumps({"stage": "beat", "words": "Following the beat", "fraction": n / 3, "found": f"{n} bars of {name}"}), flush=True)
for made in ("hearing.json", "loudness.json", "evidence.npz"):
    shutil.copy(pathlib.Path(%r) / made, folder)
"""


class DjangoSession:
    """Speaks to the server as ``requests`` does, without a network."""

    def request(self, method: str, url: str, *, headers: dict[str, str], timeout: object, stream: bool = False, **more: Any) -> Any:
        path = "/" + url.split("/", 3)[3]
        call = getattr(Client(), method.lower())
        if "files" in more:
            from django.core.files.uploadedfile import SimpleUploadedFile

            files = {name: SimpleUploadedFile(file, data) for name, (file, data) in more["files"].items()}
            return DjangoAnswer(call(path, files | more["data"], headers=headers))
        body = {"data": json.dumps(more["json"]), "content_type": "application/json"} if "json" in more else {}
        return DjangoAnswer(call(path, headers=headers, **body))


class DjangoAnswer:
    def __init__(self, answer: Any) -> None:
        self._answer, self.status_code = answer, answer.status_code
        self.json = getattr(answer, "json", None)

    @property
    def text(self) -> str:
        return str(self._answer.content)

    def __enter__(self) -> "DjangoAnswer":
        return self

    def __exit__(self, *_: object) -> None:
        self._answer.close()

    def iter_content(self, size: int) -> Iterator[bytes]:
        yield from self._answer.streaming_content


@pytest.fixture(scope="session")
def broker() -> Iterator[Redis]:
    """A real broker, at a socket of its own."""
    command = ["redis-server", "--port", "0", "--unixsocket", str(SOCKET), "--save", "", "--daemonize", "no"]
    process = subprocess.Popen(command, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)
    client = Redis(unix_socket_path=str(SOCKET))
    deadline = time.monotonic() + 20
    while True:
        try:
            client.ping()
            break
        except Exception:
            assert time.monotonic() < deadline, "the broker does not start"
            time.sleep(0.05)
    yield client
    process.kill()
    process.wait()


@pytest.fixture
def child(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    (tmp_path / "hearing.json").write_text(json.dumps(dump_hearing(HEARING)), "utf-8")
    (tmp_path / "loudness.json").write_text(json.dumps([0.5] * 350), "utf-8")
    (tmp_path / "evidence.npz").write_bytes(dump_evidence(Evidence(np.zeros((80, 3, 12), np.uint8))))
    monkeypatch.setattr(tasks, "CHILD", [sys.executable, "-c", CHILD % str(tmp_path)])


@pytest.fixture
def elsewhere(broker: Redis, settings: Any, monkeypatch: pytest.MonkeyPatch) -> None:
    """Valley as it stands with listeners on other machines."""
    broker.flushall()
    settings.BROKER, settings.SERVER, settings.LISTENER_KEY = str(SOCKET), "http://server", KEY
    settings.TASKS = {"default": {"BACKEND": "django_tasks_rq.RQBackend", "QUEUES": ["listening"]}}
    monkeypatch.setattr(listener, "_patient_session", DjangoSession)


Hear = Callable[[], None]


@pytest.fixture(params=["beside the database", "on another machine"])
def hear(request: pytest.FixtureRequest, transactional_db: None, child: None) -> Hear:
    """Let whoever listens do all that they are called for."""
    if request.param == "on another machine":
        request.getfixturevalue("elsewhere")
        return answer_calls

    def work() -> None:
        while hear_next.call():
            pass

    return work


def answer_calls() -> None:
    queue = django_rq.get_queue("listening", job_class=Job)
    SimpleWorker([queue], connection=queue.connection, job_class=Job).work(burst=True)


def add(wav: bytes, name: str = "take.wav") -> ListeningJob:
    song = add_recording(Upload(name, len(wav), [wav]), again=True)
    return ListeningJob.objects.get(recording__song=song)


def test_what_is_added_is_heard_and_kept(hear: Hear, wav_bytes: bytes) -> None:
    job = add(wav_bytes)
    hear()
    job.refresh_from_db()
    assert (job.state, job.attempts, job.fraction) == (State.DONE, 1, 1.0)
    assert job.found == [f"{n} bars of take.wav" for n in range(3)]
    assert HearingRecord.objects.get().evidence
    assert Revision.objects.get().what == "Heard in the recording"


def test_the_first_come_is_heard_first_and_each_once(hear: Hear, wav_bytes: bytes) -> None:
    jobs = [add(wav_bytes, f"take {n}.wav") for n in range(3)]
    hear()
    assert [h.recording_id for h in HearingRecord.objects.order_by("id")] == [j.recording_id for j in jobs]
    hear()
    assert HearingRecord.objects.count() == Revision.objects.count() == 3


def test_what_is_held_is_nobody_elses_until_its_lease_runs_out(hear: Hear, wav_bytes: bytes) -> None:
    job = add(wav_bytes)
    held = claim_job(LISTENING)
    assert held is not None
    hear()
    assert HearingRecord.objects.count() == 0
    ListeningJob.objects.update(lease_until=timezone.now() - timedelta(seconds=1))  # its listener died
    Caller().call_again()
    hear()
    job.refresh_from_db()
    assert (job.state, job.attempts, job.failures) == (State.DONE, 2, 0)


def test_what_is_cancelled_meanwhile_is_stopped(hear: Hear, wav_bytes: bytes, monkeypatch: pytest.MonkeyPatch) -> None:
    job = add(wav_bytes)
    monkeypatch.setattr(tasks, "CHILD", [sys.executable, "-c", "import time; time.sleep(60)"])
    monkeypatch.setattr(doing, "HEARTBEAT_SECONDS", 0.05)

    def cancel() -> None:
        while ListeningJob.objects.get(pk=job.pk).state != State.RUNNING:
            time.sleep(0.05)
        cancel_listening(job.pk, actor="owner")

    thread = threading.Thread(target=cancel)
    thread.start()
    began = time.monotonic()
    hear()
    thread.join()
    job.refresh_from_db()
    assert job.state == State.CANCELLED
    assert time.monotonic() - began < 50, "it was not waited for"


def test_a_file_that_cannot_be_heard_says_why(hear: Hear, wav_bytes: bytes, monkeypatch: pytest.MonkeyPatch) -> None:
    job = add(wav_bytes)
    monkeypatch.setattr(tasks, "CHILD", [sys.executable, "-c", "import sys; sys.stderr.write('it is silent'); sys.exit(2)"])
    hear()
    job.refresh_from_db()
    assert (job.state, job.error) == (State.FAILED, "it is silent")


def test_a_child_that_breaks_off_is_tried_again_later_and_given_up_in_the_end(hear: Hear, wav_bytes: bytes, monkeypatch: pytest.MonkeyPatch) -> None:
    job = add(wav_bytes)
    monkeypatch.setattr(tasks, "CHILD", [sys.executable, "-c", "raise SystemExit(9)"])
    for failures in (1, 2, 3):
        hear()
        job.refresh_from_db()
        assert (job.state, job.failures) == (State.WAITING, failures)
        ListeningJob.objects.update(not_before=timezone.now())
        Caller().call_again()
    hear()
    job.refresh_from_db()
    assert job.state == State.FAILED
    assert "broke off 3 times" in job.error


def test_no_chart_can_be_made_of_it(hear: Hear, wav_bytes: bytes, tmp_path: Path) -> None:
    job = add(wav_bytes)
    empty = dump_hearing(HEARING) | {"beats": [], "bars": []}
    (tmp_path / "hearing.json").write_text(json.dumps(empty), "utf-8")
    hear()
    job.refresh_from_db()
    assert job.state == State.FAILED
    assert job.error


def test_a_call_that_was_lost_is_made_again(broker: Redis, elsewhere: None, transactional_db: None, child: None, wav_bytes: bytes) -> None:
    job = add(wav_bytes)
    broker.flushall()  # the broker was started anew, and remembers nothing
    answer_calls()
    job.refresh_from_db()
    assert job.state == State.WAITING
    caller = Caller()
    assert [caller.call_again(), caller.call_again()] == [1, 0], "called once, and not without end"
    answer_calls()
    job.refresh_from_db()
    assert job.state == State.DONE


def test_a_call_too_many_is_of_no_effect(broker: Redis, elsewhere: None, transactional_db: None, child: None, wav_bytes: bytes) -> None:
    song = add(wav_bytes).recording.song
    for _ in range(5):
        start_listening(song, actor="owner")
    answer_calls()
    assert HearingRecord.objects.count() == 1


def test_a_broker_that_is_away_stops_nobody(transactional_db: None, settings: Any, wav_bytes: bytes, monkeypatch: pytest.MonkeyPatch) -> None:
    def away(*_: object) -> None:
        raise ConnectionError("no broker")

    monkeypatch.setattr(type(hear_next), "enqueue", away)
    settings.BROKER = "redis://nowhere"
    assert add(wav_bytes).state == State.WAITING


@pytest.fixture
def server(transactional_db: None, settings: Any) -> Server:
    settings.LISTENER_KEY = KEY
    return Server("http://server", KEY, DjangoSession())


def test_two_listeners_at_once_hold_one_job_once(server: Server, wav_bytes: bytes) -> None:
    add(wav_bytes)
    assert server.claim() is not None
    assert server.claim() is None


def test_who_was_slow_changes_nothing_any_more(server: Server, wav_bytes: bytes, child: None, tmp_path: Path) -> None:
    job = add(wav_bytes)
    slow = server.claim()
    assert slow is not None
    ListeningJob.objects.update(lease_until=timezone.now() - timedelta(seconds=1))
    quick = server.claim()
    assert quick is not None
    assert not slow.go_on(doing.Said("Following the beat", 0.5))
    slow.keep(tmp_path, "")
    slow.fail("not mine any more")
    slow.put_back()
    job.refresh_from_db()
    assert (job.state, HearingRecord.objects.count()) == (State.RUNNING, 0)
    with pytest.raises(ConnectionError, match="job is another"):
        slow.make_command(tmp_path)
    quick.keep(tmp_path, "it breaks off")
    quick.keep(tmp_path, "it breaks off")
    job.refresh_from_db()
    assert (job.state, HearingRecord.objects.count(), job.recording.warning) == (State.DONE, 1, "it breaks off")


@pytest.mark.parametrize("key", ["", "another", "a-key-of-the-testS"])
def test_nobody_is_let_in_without_the_key(server: Server, site: PageClient, new_song: Song, key: str) -> None:
    answer = site.post("/api/listeners/claim", headers={"Authorization": f"Bearer {key}"})
    assert answer.status_code == 401
    assert ListeningJob.objects.get().state == State.WAITING


def test_where_no_key_is_set_nobody_is_let_in(site: PageClient, new_song: Song) -> None:
    assert site.post("/api/listeners/claim", headers={"Authorization": "Bearer "}).status_code == 401


def test_a_listener_comes_from_elsewhere_with_its_key_alone(server: Server, new_song: Song) -> None:
    far = Client(REMOTE_ADDR="10.1.2.3")
    assert far.post("/api/listeners/claim", headers={"Authorization": f"Bearer {KEY}"}).status_code == 200
    assert far.get("/api/shelf", headers={"Authorization": f"Bearer {KEY}"}).status_code == 401


@pytest.mark.parametrize("made", [b"no json", b"[]", b"{}", b'{"format": "valley-hearing"}'])
def test_what_is_no_hearing_is_refused_and_nothing_is_kept(server: Server, wav_bytes: bytes, child: None, tmp_path: Path, made: bytes) -> None:
    job = add(wav_bytes)
    hold = server.claim()
    assert hold is not None
    (tmp_path / "hearing.json").write_bytes(made)
    try:
        hold.keep(tmp_path, "")
    except ConnectionError as error:
        assert " 422: " in str(error)
    job.refresh_from_db()
    assert job.state in (State.RUNNING, State.FAILED)
    assert HearingRecord.objects.count() == Revision.objects.count() == 0


def test_the_owner_is_told_where_nobody_listens(site: PageClient, new_song: Song) -> None:
    assert not [t for t in site.get("/api/health").json()["troubles"] if "nobody listens" in t]
    ListeningJob.objects.update(made_at=timezone.now() - timedelta(minutes=12))
    assert [t for t in site.get("/api/health").json()["troubles"] if "waited 12 minutes and nobody listens" in t]
