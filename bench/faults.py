"""A scripted scoring during which parts of an installation are killed, again and again: nothing may be lost or doubled.

bench/run faults [faults] [kinds]      # 50 of all kinds by default

It makes an installation of its own with ./start in a temporary folder, on ports of its own, scores a match with the
keyboard in a real browser, and kills -9 the server, the worker, the database, nginx or the browser at random moments.
It also restarts the database in an orderly way, freezes it and the worker for some seconds as a cut network does, takes
the browser off the network, and, as root, fills the disk that all of it is on. After each it waits until the page says
that everything is saved, and holds the database against the keys that were pressed. A clip is uploaded before something
happens to a worker or to the disk; each of them must be prepared at the end.
"""

from __future__ import annotations

import os
import random
import shutil
import signal
import subprocess
import sys
import tempfile
import time
from collections import Counter
from collections.abc import Callable
from pathlib import Path
from typing import Any

sys.path.insert(0, str(Path(__file__).resolve().parents[1]))
from scripts.chromium import LAUNCH

ROOT = Path(__file__).resolve().parents[1]
PORT = 8471
DATA = Path(tempfile.mkdtemp(prefix="jurata-faults-"))
os.environ |= {
    "JURATA_DATA": str(DATA),
    "JURATA_PORT": str(PORT),
    "JURATA_SERVER_PORT": str(PORT + 1),
    "JURATA_TABLE_PORT": str(PORT + 2),
    "JURATA_DB_PORT": str(PORT + 3),
    "JURATA_DEMO": "0",
    "DJANGO_SETTINGS_MODULE": "config.settings",
    "DJANGO_ALLOW_ASYNC_UNSAFE": "true",  # the browser's driver keeps an event loop
}
ADDRESS = f"http://127.0.0.1:{PORT}"
PASSWORD = "three-seconds"
EVERY_S = 0.4
"""Between two keys: a busy moment of a match."""
KEYS = ("g", "s", "m", "k", "b", "t")
KILLED = ("server", "worker", "database", "nginx", "browser")
PASSING = ("restart", "frozen database", "frozen worker", "offline", "full disk")
"""What passes by itself: it is begun, keys are pressed, and it ends."""
LASTS_S = 3
"""So long such a fault lasts after the last key."""
DISK = "1500m"
WORDS = {"server": "gunicorn", "worker": "procrastinate", "nginx": "nginx: ", "database": "postgres"}
RECOVERS_S = 60


def start(*arguments: str) -> None:
    subprocess.run([str(ROOT / "start"), *arguments], check=True, stdout=subprocess.DEVNULL)


class Drill:
    """The installation, its one match, and the browser at its desk."""

    def __init__(self) -> None:
        sys.path[:0] = [str(ROOT / "server"), str(ROOT / "core")]
        import django

        django.setup()
        from playwright.sync_api import sync_playwright

        self.random = random.Random(7)
        self.playwright = sync_playwright().start()
        self.profile = DATA / "browser"
        self.pressed: list[tuple[float, str]] = []
        self.said: Counter[str] = Counter()
        self.clips = self.filled = 0
        self._make_match()
        self._open_browser()

    def _make_match(self) -> None:
        from django.contrib.auth.models import User

        from clubs.actions import found_club
        from matches.actions import set_up
        from roster.models import Athlete

        self.coach = User.objects.create_user("coach", password=PASSWORD)
        self.club = found_club("Dune Grappling", self.coach)
        athlete = Athlete.objects.create(club=self.club, name="Ada Brenn", birth_year=2000, belt="blue")
        values = {
            "athlete": athlete, "opponent": "Bo Calder", "event": "Dune Day", "ruleset": "full-points",
            "duration_ms": 3_600_000, "age": 24, "belt": "blue", "attire": "gi", "clip": None,
        }  # fmt: skip
        self.match = set_up(self.coach, values)

    def _open_browser(self) -> None:
        self.context = self.playwright.chromium.launch_persistent_context(str(self.profile), **LAUNCH)
        self.page = self.context.pages[0]
        self._go_to_desk()

    def _go_to_desk(self) -> None:
        """The desk, once what was killed is there again."""
        for _ in range(RECOVERS_S):
            try:
                self.page.goto(f"{ADDRESS}/matches/{self.match.pk}")
                self.page.get_by_label("Password").or_(self.page.get_by_test_id("save-state")).first.wait_for(
                    timeout=5000
                )
                break
            except Exception:
                time.sleep(1)
        if self.page.get_by_label("Password").count():
            self.page.get_by_label("Name").fill("coach")
            self.page.get_by_label("Password").fill(PASSWORD)
            self.page.get_by_role("button", name="Sign in", exact=True).click()
        self.page.get_by_test_id("save-state").wait_for(state="attached", timeout=20_000)

    def press(self) -> None:
        """One more observation, each at a time of its own and of another position than the one before."""
        t = round(1 + len(self.pressed) * 0.48, 3)  # on a frame: without a clip there are 25 a second
        key = KEYS[len(self.pressed) % len(KEYS)]
        self.page.get_by_label("Time in the footage").fill(str(t))
        self.page.keyboard.press(key)
        self.pressed.append((t, key))

    def kill(self, kind: str) -> None:
        """End it without a warning."""
        if kind == "browser":
            for process in self._of(str(self.profile)):
                process.kill()
            return
        if kind == "worker":
            self._upload()
        folder = (DATA / "postgres.folder").read_text().strip()
        for process in self._of(folder if kind == "database" else WORDS[kind]):
            process.kill()

    def begin(self, kind: str) -> Callable[[], object]:
        """Begin a fault that passes; what is returned ends it."""
        folder = (DATA / "postgres.folder").read_text().strip()
        if kind == "restart":
            # As systemd does it at an upgrade of the database: it ends, and what keeps it up starts it again.
            pid = int((Path(folder) / "postmaster.pid").read_text().split()[0])
            os.kill(pid, signal.SIGINT)
            return lambda: None
        if kind == "offline":
            self.context.set_offline(True)
            return lambda: self.context.set_offline(False)
        if kind == "full disk":
            self._upload()
            filler = DATA / "filler"
            subprocess.run(["dd", "if=/dev/zero", f"of={filler}", "bs=1M"], check=False, capture_output=True)
            self._use_up_the_log()
            return filler.unlink
        if kind == "frozen worker":
            self._upload()
        frozen = self._of(folder if kind == "frozen database" else WORDS["worker"])
        for process in frozen:
            process.suspend()
        return lambda: [process.resume() for process in frozen if process.is_running()]

    def _use_up_the_log(self) -> None:
        """Have the database write until it needs a new file of its log, for which there is no room: it ends at that."""
        from django.db import DatabaseError, connection

        try:
            with connection.cursor() as cursor:
                for _ in range(200):
                    cursor.execute("select pg_logical_emit_message(false, 'filling', repeat('x', 16000000))")
        except DatabaseError:
            self.filled += 1
        connection.close()

    def _of(self, word: str) -> list[Any]:
        """The processes of this installation that have a word in their command line."""
        import psutil

        found = []
        for process in psutil.process_iter(["cmdline"]):
            line = " ".join(process.info["cmdline"] or [])
            try:
                ours = str(DATA) in line or process.environ().get("JURATA_DATA") == str(DATA)
            except psutil.Error:
                ours = False
            if word in line and ours and process.pid != os.getpid():
                found.append(process)
        return found

    def _upload(self) -> None:
        """A small clip for the worker to be killed at."""
        from footage.actions import announce, append

        path = DATA / "small.mp4"
        if not path.exists():
            source = ["-f", "lavfi", "-i", "testsrc=duration=20:size=320x240:rate=25"]
            asked = ["ffmpeg", "-v", "error", *source, "-pix_fmt", "yuv420p", str(path)]
            subprocess.run(asked, check=True)
        clip = announce(self.club.pk, self.coach.pk, f"{self.clips}.mp4", path.stat().st_size)
        with path.open("rb") as file:
            append(clip, 0, file.read)
        self.clips += 1

    def recovered(self, kind: str) -> float:
        """Seconds until the page says that all is saved; it has said a sentence meanwhile, if it was long."""
        begun = time.monotonic()
        if kind == "browser":
            try:
                self.context.close()
            except Exception:
                pass
            for lock in self.profile.glob("Singleton*"):
                lock.unlink()
            self._open_browser()
        state = self.page.get_by_test_id("save-state")
        while time.monotonic() - begun < RECOVERS_S:
            words = state.inner_text()
            self.said[words.split(":")[0]] += 1
            if words == "Saved" and state.get_attribute("aria-busy") == "false":
                return time.monotonic() - begun
            time.sleep(0.1)
        raise SystemExit(f"{kind}: after {RECOVERS_S} s the page still says {state.inner_text()}")

    def differences(self) -> list[str]:
        """Where the database differs from the keys that were pressed."""
        from django.db import close_old_connections, connection

        connection.close()
        close_old_connections()
        for _ in range(RECOVERS_S):
            try:
                rows = [
                    one["t"] for one in self.match.observations.filter(deleted=False).values_list("body", flat=True)
                ]
                break
            except Exception:
                connection.close()
                time.sleep(1)
        else:
            return ["the database does not answer"]
        stored, wanted = Counter(rows), Counter(t for t, _ in self.pressed)
        lost = [f"{t} s is lost" for t in wanted - stored]
        doubled = [f"{t} s is there {n + 1} times" for t, n in (stored - wanted).items()]
        return lost + doubled

    def unprepared(self) -> list[str]:
        """What became of the clips that are not prepared, after time enough for a worker to find what was left."""
        from jobs.actions import retry
        from jobs.models import Job
        from jobs.running import NO_ROOM

        left: list[str] = []
        for _ in range(360):
            for job in Job.objects.filter(state=Job.State.FAILED, trouble=NO_ROOM):
                self.said[NO_ROOM] += 1
                retry(job)  # as somebody does who has read that
            jobs = Job.objects.exclude(state=Job.State.DONE).exclude(clip=None)
            left = [f"{job.state} after {job.tries} tries {job.trouble}".strip() for job in jobs]
            if not left:
                break
            time.sleep(0.5)
        return left


def go_through(drill: Drill, kind: str) -> None:
    """Press five keys; at one of them the fault comes."""
    at = drill.random.randrange(1, 5)
    end: Callable[[], object] | None = None
    for step in range(5):
        if step == at:
            time.sleep(drill.random.random() * EVERY_S)
            if kind in PASSING:
                end = drill.begin(kind)
            else:
                drill.kill(kind)
            if kind == "browser":
                break
        drill.press()
        time.sleep(EVERY_S * drill.random.random())
    if end is not None:
        time.sleep(LASTS_S)
        end()


def main() -> None:
    many = int(sys.argv[1]) if len(sys.argv) > 1 else 50
    every = [kind for kind in (*KILLED, *PASSING) if kind != "full disk" or os.geteuid() == 0]
    kinds = [kind for kind in every if kind in sys.argv[2:]] or every
    begun = time.monotonic()
    if "full disk" in kinds:
        subprocess.run(["mount", "-t", "tmpfs", "-o", f"size={DISK}", "jurata-faults", str(DATA)], check=True)
    DATA.chmod(0o755)
    start()
    drill = Drill()
    good = 0
    times: dict[str, float] = {}
    for number in range(many):
        kind = kinds[number % len(kinds)] if number < len(kinds) else drill.random.choice(kinds)
        go_through(drill, kind)
        took = drill.recovered(kind)
        wrong = drill.differences()
        good += not wrong
        times[kind] = max(times.get(kind, 0), round(took, 1))
        print(
            f"{number + 1:2} {kind:15}  saved again after {took:4.1f} s; {'; '.join(wrong) or 'all there, once'}",
            flush=True,
        )
    left = drill.unprepared()
    took = time.monotonic() - begun
    print(f"{good} of {many} without a loss or a double, {len(drill.pressed)} observations")
    print(f"{len(left)} of {drill.clips} clips unprepared {left or ''}")
    print(f"longest until saved again, in seconds: {times}; the whole drill {took:.0f} s")
    print(f"the database ended for want of room {drill.filled} times")
    print(f"what the page said meanwhile: {', '.join(sorted(drill.said))}")
    drill.context.close()
    drill.playwright.stop()
    start("--stop")
    if "full disk" in kinds:
        subprocess.run(["umount", str(DATA)], check=True)
    shutil.rmtree(DATA, ignore_errors=True)
    sys.exit(good != many or bool(left))


if __name__ == "__main__":
    main()
