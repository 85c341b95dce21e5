"""Listening in the background: progress, cancelling, and what happens when something dies."""

import errno
import os
import signal
import subprocess
import sys
import threading
import time
from datetime import timedelta
from pathlib import Path

import pytest
from django.core.management import call_command
from django.db import OperationalError, connection
from django.utils import timezone

from tests.sounds import save, save_silent_video, song
from tests.web.conftest import PageClient
from valley_web.songs import doing, tasks
from valley_web.songs.jobs import MAX_FAILURES, claim_job, run_job
from valley_web.songs.listening import cancel_listening, start_listening
from valley_web.songs.models import HearingRecord, ListeningJob, Song
from valley_web.songs.services import Upload, add_recording
from valley_web.songs.tasks import LISTENING

State = ListeningJob.State


def claim() -> ListeningJob:
    job = claim_job(LISTENING)
    assert job is not None
    return job


def test_a_job_runs_from_upload_to_chart(new_song: Song, site: PageClient) -> None:
    call_command("work", once=True)
    body = site.get(f"/api/songs/{new_song.pk}").json()
    assert body["job"]["state"] == "done"
    assert body["standing"] in ("heard", "charted")
    assert body["duration"] > 7
    assert "4/4" in body["facts"]
    assert any("melody notes" in f for f in body["job"]["found"])
    assert HearingRecord.objects.count() == 1
    assert len(site.get(f"/api/songs/{new_song.pk}/loudness").json()) > 100


@pytest.mark.parametrize(
    ("name", "words"), [("words.mp3", "no recording"), ("clip.mp4", "without sound"), ("quiet.wav", "silent"), ("short.wav", "at least 5 s")]
)
def test_bad_files_fail_with_a_sentence_and_stay_on_the_shelf(db: None, tmp_path: Path, name: str, words: str) -> None:
    import numpy as np

    path = tmp_path / name
    if name == "words.mp3":
        path.write_bytes(b"only words here " * 300)
    elif name == "clip.mp4":
        save_silent_video(path)
    else:
        save(np.zeros(22050 * 8, np.float32) if name == "quiet.wav" else song(["C"])[: 22050 * 3], path)
    data = path.read_bytes()
    added = add_recording(Upload(name, len(data), [data]))
    run_job(LISTENING, claim())
    job = ListeningJob.objects.get(recording=added.recording)
    assert job.state == State.FAILED
    assert words in job.error
    assert repr(name) in job.error
    assert Song.objects.filter(pk=added.pk, deleted_at=None).exists()


def test_a_truncated_file_is_heard_with_a_warning(db: None, tmp_path: Path) -> None:
    data = save(song(["C", "F", "G", "C"] * 2), tmp_path / "a.wav").read_bytes()
    data = data[: len(data) * 2 // 3]
    added = add_recording(Upload("broken.wav", len(data), [data]))
    run_job(LISTENING, claim())
    added.recording.refresh_from_db()
    assert "breaks off" in added.recording.warning


def test_a_waiting_job_is_cancelled_at_once(new_song: Song) -> None:
    job = ListeningJob.objects.get()
    assert cancel_listening(job.pk, actor="owner").state == State.CANCELLED
    assert claim_job(LISTENING) is None


def test_a_running_job_stops_when_asked(new_song: Song, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(doing, "HEARTBEAT_SECONDS", 0.05)
    job = claim()
    ListeningJob.objects.filter(pk=job.pk).update(cancel_asked=True)
    run_job(LISTENING, job)
    job.refresh_from_db()
    assert job.state == State.CANCELLED
    assert not HearingRecord.objects.exists()


def test_starting_twice_gives_the_same_job(new_song: Song) -> None:
    job = ListeningJob.objects.get()
    assert start_listening(new_song, actor="owner") == job
    ListeningJob.objects.update(state=State.FAILED)
    assert start_listening(new_song, actor="owner") != job


def test_a_dead_workers_job_is_taken_up_again(new_song: Song) -> None:
    first = claim()
    assert claim_job(LISTENING) is None  # its lease still holds
    ListeningJob.objects.update(lease_until=timezone.now() - timedelta(seconds=1))
    second = claim()
    assert second.pk == first.pk
    assert second.attempts == 2
    run_job(LISTENING, first)  # the first worker was only slow: it must not touch what is not its own any more
    second.refresh_from_db()
    assert second.state == State.RUNNING
    run_job(LISTENING, second)
    second.refresh_from_db()
    assert second.state == State.DONE


def test_a_job_that_keeps_dying_is_given_up(new_song: Song) -> None:
    ListeningJob.objects.update(state=State.WAITING, failures=MAX_FAILURES, stage="Following the beat")
    assert claim_job(LISTENING) is None
    job = ListeningJob.objects.get()
    assert job.state == State.FAILED
    assert "broke off 3 times, last at “Following the beat”" in job.error


def test_deaths_of_workers_and_machines_are_not_the_files_fault(new_song: Song) -> None:
    for n in range(1, 12):
        ListeningJob.objects.update(lease_until=timezone.now() - timedelta(seconds=1))
        assert claim().attempts == n
    job = claim_again()
    run_job(LISTENING, job)
    job.refresh_from_db()
    assert (job.state, job.failures) == (State.DONE, 0)


def claim_again() -> ListeningJob:
    ListeningJob.objects.update(lease_until=timezone.now() - timedelta(seconds=1))
    return claim()


def test_a_stopped_worker_puts_its_job_back_in_line(new_song: Song, monkeypatch: pytest.MonkeyPatch) -> None:
    def stop(*_: object) -> None:
        raise KeyboardInterrupt

    monkeypatch.setattr(doing, "_follow", stop)
    with pytest.raises(KeyboardInterrupt):
        run_job(LISTENING, claim())
    job = ListeningJob.objects.get()
    assert (job.state, job.failures, job.lease_until) == (State.WAITING, 0, None)
    assert claim_job(LISTENING) is not None  # at once, by the next worker


@pytest.mark.parametrize("error", [OSError(errno.ENOSPC, "No space left on device"), OperationalError("database or disk is full")])
def test_a_full_disk_makes_the_job_wait_and_go_on_by_itself(new_song: Song, monkeypatch: pytest.MonkeyPatch, error: Exception) -> None:
    def no_room(*_: object, **__: object) -> None:
        raise error

    monkeypatch.setattr(tasks, "keep_heard", no_room)
    run_job(LISTENING, claim())
    job = ListeningJob.objects.get()
    assert (job.state, job.failures) == (State.WAITING, 0)
    assert job.stage.startswith("The disk is full")
    assert claim_job(LISTENING) is None
    monkeypatch.undo()
    ListeningJob.objects.update(not_before=timezone.now())
    run_job(LISTENING, claim())
    assert ListeningJob.objects.get().state == State.DONE


def test_a_killed_child_is_tried_again(new_song: Song, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(tasks, "CHILD", [sys.executable, "-c", "import os, signal; os.kill(os.getpid(), signal.SIGKILL)"])
    run_job(LISTENING, claim())
    job = ListeningJob.objects.get()
    assert (job.state, job.attempts, job.failures) == (State.WAITING, 1, 1)
    assert claim_job(LISTENING) is None  # not at once
    ListeningJob.objects.update(not_before=timezone.now())
    assert claim_job(LISTENING) is not None


@pytest.mark.django_db(transaction=True)
def test_a_worker_killed_in_mid_job_loses_nothing(wav_bytes: bytes) -> None:
    """kill -9 on a real worker process; the next worker finishes the job."""
    added = add_recording(Upload("take.wav", len(wav_bytes), [wav_bytes]))
    environment = os.environ | {"VALLEY_TEST_DATABASE": str(connection.settings_dict["NAME"]), "VALLEY_TEST_DATA": os.environ["VALLEY_DATA"]}
    environment["DJANGO_SETTINGS_MODULE"] = "tests.web.settings"
    command = [sys.executable, "-m", "django", "work"]
    worker = subprocess.Popen(command, env=environment)
    try:
        deadline = time.monotonic() + 60
        while not ListeningJob.objects.filter(state=State.RUNNING, fraction__gt=0).exists():
            assert time.monotonic() < deadline, "the worker never began"
            time.sleep(0.02)
        os.kill(worker.pid, signal.SIGKILL)
    finally:
        worker.kill()
        worker.wait()
    job = ListeningJob.objects.get(recording=added.recording)
    assert job.state == State.RUNNING
    ListeningJob.objects.update(lease_until=timezone.now() - timedelta(seconds=1))
    call_command("work", once=True)
    job.refresh_from_db()
    assert (job.state, job.attempts) == (State.DONE, 2)


def test_removing_a_song_stops_its_job(site: PageClient, new_song: Song) -> None:
    site.call("DELETE", f"songs/{new_song.pk}")
    assert ListeningJob.objects.get().state == State.CANCELLED


def test_progress_is_seen_while_it_runs(new_song: Song, site: PageClient) -> None:
    ListeningJob.objects.update(state=State.RUNNING, stage="Following the beat", fraction=0.7, found=["120 beats to the minute"], lease_until=timezone.now())
    body = site.get(f"/api/songs/{new_song.pk}").json()
    assert body["standing"] == "listening"
    assert body["job"] | {"id": 0} == {
        "id": 0,
        "state": "running",
        "stage": "Following the beat",
        "fraction": 0.7,
        "found": ["120 beats to the minute"],
        "error": "",
    }


def test_threads_are_not_left_behind(new_song: Song) -> None:
    before = threading.active_count()
    run_job(LISTENING, claim())
    assert threading.active_count() <= before + 1
