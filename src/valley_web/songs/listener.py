"""Who listens: the worker beside the database, or a listener on another machine, which fetches the recording and hands the hearing back."""

from pathlib import Path
from typing import Any

from django.conf import settings

from valley_web.songs.doing import Hold, Said, do_job

_PATIENCE = (10.0, 120.0)  # seconds to reach the server, and between two bytes of it
_BLOCK = 2**20
MADE = ("hearing.json", "loudness.json", "evidence.npz")


def hear_oldest() -> bool:
    """Claim the recording that has waited longest, and listen to it; False where none waits."""
    hold = Server(settings.SERVER, settings.LISTENER_KEY).claim() if settings.SERVER else _claim_here()
    if hold is None:
        return False
    do_job(hold, settings.UPLOAD_DIR)
    return True


def _claim_here() -> Hold | None:
    from valley_web.songs.jobs import LocalHold, claim_job
    from valley_web.songs.tasks import LISTENING

    job = claim_job(LISTENING)
    return LocalHold(LISTENING, job) if job else None


class Server:
    """Valley's server as a listener elsewhere sees it; ``session`` speaks HTTP."""

    def __init__(self, address: str, key: str, session: Any = None) -> None:
        self._address = address.rstrip("/")
        self._session = session or _patient_session()
        self._headers = {"Authorization": f"Bearer {key}"}

    def claim(self) -> "RemoteHold | None":
        """The job that has waited longest, held from now on; None where none waits."""
        answer = self.ask("POST", "claim")
        return None if answer.status_code == 204 else RemoteHold(self, answer.json())

    def ask(self, method: str, path: str, **more: Any) -> Any:
        """One request; whatever the server refuses is an error here, with its own words."""
        answer = self._session.request(method, f"{self._address}/api/listeners/{path}", headers=self._headers, timeout=_PATIENCE, **more)
        if answer.status_code >= 400:
            raise ConnectionError(f"{self._address} answered {answer.status_code}: {answer.text[:300]}")
        return answer


def _patient_session() -> Any:
    """Tries again for a minute where the server is being started anew: what is told twice is of effect once, as the claim's number says whose it is."""
    import requests
    from requests.adapters import HTTPAdapter
    from urllib3.util.retry import Retry

    session = requests.Session()
    again = HTTPAdapter(max_retries=Retry(total=6, backoff_factor=1.0, allowed_methods=None, status_forcelist=(502, 503, 504)))
    session.mount("http://", again)
    session.mount("https://", again)
    return session


class RemoteHold:
    """A claimed job that is done away from the database (see ``doing.Hold``)."""

    def __init__(self, server: Server, job: dict[str, Any]) -> None:
        self._server, self._job = server, job
        self._path = f"jobs/{job['id']}/{job['claim']}"

    def make_command(self, folder: Path) -> list[str]:
        """Fetch the recording, and say how it is heard."""
        from valley_web.songs.tasks import CHILD

        source = folder / f"recording{self._job['ending']}"
        with self._server.ask("GET", f"{self._path}/recording", stream=True) as answer, source.open("wb") as file:
            for block in answer.iter_content(_BLOCK):
                file.write(block)
        return [*CHILD, str(source), self._job["name"], str(folder), str(self._job["most_seconds"])]

    def go_on(self, said: Said) -> bool:
        body = {"stage": said.stage, "fraction": said.fraction, "found": said.found}
        return bool(self._server.ask("POST", f"{self._path}/progress", json=body).json()["go_on"])

    def keep(self, folder: Path, warning: str) -> None:
        files = {name.partition(".")[0]: (name, (folder / name).read_bytes()) for name in MADE}
        self._server.ask("POST", f"{self._path}/hearing", files=files, data={"warning": warning})

    def fail(self, why: str) -> None:
        self._end("failed", why)

    def cancel(self) -> None:
        self._end("cancelled")

    def try_again(self, errors: str) -> None:
        self._end("broke off", errors[-500:])

    def put_back(self, *, full: bool = False) -> None:
        self._end("full" if full else "put back")

    def _end(self, how: str, words: str = "") -> None:
        self._server.ask("POST", f"{self._path}/end", json={"how": how, "words": words})
