"""How fast the desk is, in a real browser: keys, frame steps, jumps to an exchange, and playing.

./start && bench/run desk

On the demo's longest match and on one of 1,000 observations; the clip is 1080p.
"""

from __future__ import annotations

import os
import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

from playwright.sync_api import Page, sync_playwright

sys.path.insert(0, str(Path(__file__).resolve().parents[1]))
from scripts.chromium import LAUNCH

ADDRESS = f"http://127.0.0.1:{os.environ.get('JURATA_PORT', '8417')}"
ROUNDS = 60
LONG = 1_000
CLIP_SECONDS = 360
LOOK_MS = 50
"""How often the script looks whether it is there: at every frame, the looking itself would keep the page busy."""

# The spine says which revision of the log it shows: with a new one the verdict is drawn.
# A task after the next animation frame that is on the screen.
WATCH_KEYS = """() => {
  window.times = [];
  let pressed = 0;
  window.addEventListener("keydown", () => { pressed = performance.now(); }, true);
  const spine = document.querySelector("[data-testid=spine]");
  new MutationObserver(() => {
    const from = pressed;
    requestAnimationFrame(() => setTimeout(() => window.times.push(performance.now() - from)));
  }).observe(spine, { attributes: true, attributeFilter: ["data-revision"] });
}"""
# A frame is painted when the player presents it.
WATCH_FRAMES = """() => {
  window.frames_shown = [];
  const video = document.querySelector("video");
  let from = 0;
  const begin = () => { from = performance.now(); };
  for (const kind of ["keydown", "pointerdown"]) window.addEventListener(kind, begin, true);
  const shown = (now) => {
    if (from) { window.frames_shown.push(performance.now() - from); from = 0; }
    video.requestVideoFrameCallback(shown);
  };
  video.requestVideoFrameCallback(shown);
}"""
WATCH_TASKS = """() => {
  window.long_tasks = [];
  new PerformanceObserver(list => { for (const one of list.getEntries()) window.long_tasks.push(one.duration); })
    .observe({ type: "longtask" });
}"""


def call(page: Page, method: str, path: str, body: Any = None) -> Any:
    """The API from inside the page, signed in."""
    script = """async ([method, path, body]) => {
      const token = /csrftoken=([^;]+)/.exec(document.cookie)[1];
      const headers = { "X-CSRFToken": token, "Content-Type": "application/json" };
      const sent = body === null ? undefined : JSON.stringify(body);
      const answer = await fetch("/api/" + path, { method, headers, body: sent });
      return answer.status === 204 ? null : await answer.json();
    }"""
    return page.evaluate(script, [method, path, body])


def long_log(length: int = LONG) -> dict[str, Any]:
    places = [("guard", "a"), ("side", "a"), ("mount", "a"), ("guard", "b"), ("turtle", "b")]
    observations: list[dict[str, Any]] = [{"t": 0, "kind": "clock", "action": "start"}]
    for number in range(length - 1):
        position, top = places[number * 7 % 5]
        t = round(1 + number * 0.34, 2)
        observations.append({"t": t, "kind": "position", "position": position, "top": top})
    division = {"age": 25, "belt": "blue", "attire": "gi"}
    head = {"format": "jurata-match/1", "ruleset": "full-points", "duration": 345, "division": division}
    return {**head, "observations": observations}


def full_hd(page: Page) -> str:
    """A clip of 1080p with a keyframe a second, and the copy that the worker makes of it. Returns its id."""
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "bench.mp4"
        source = f"testsrc2=size=1920x1080:rate=25:duration={CLIP_SECONDS}"
        how = ["-c:v", "libx264", "-preset", "ultrafast", "-g", "25", "-pix_fmt", "yuv420p"]
        subprocess.run(["ffmpeg", "-v", "error", "-f", "lavfi", "-i", source, *how, path], check=True)
        page.goto(f"{ADDRESS}/matches/new")
        page.get_by_label("Upload a clip").set_input_files(path)
        uploaded = page.get_by_label("or use one already uploaded")
        uploaded.locator("option", has_text="bench.mp4").wait_for(state="attached")
        page.wait_for_function("!document.querySelector('[role=progressbar]')", timeout=300_000)
    while True:  # until the worker is done with it
        clip = next(clip for clip in call(page, "GET", "clips") if clip["name"] == "bench.mp4")
        if clip["job"] and clip["job"]["state"] == "done":
            return str(clip["id"])
        time.sleep(1)


class Processors:
    """How much of the processors' time went to other machines on the same host since the last asking."""

    def __init__(self) -> None:
        self.taken, self.all = self._ticks()

    def _ticks(self) -> tuple[int, int]:
        with open("/proc/stat") as lines:
            ticks = [int(word) for word in lines.readline().split()[1:9]]
        return ticks[7], sum(ticks)

    def taken_since(self) -> float:
        taken, total = self._ticks()
        share = (taken - self.taken) / max(1, total - self.all)
        self.taken, self.all = taken, total
        return share


def report(name: str, times: list[float], processors: Processors) -> None:
    times = sorted(times)
    p95 = times[min(len(times) - 1, int(len(times) * 0.95))]
    lost = f"{processors.taken_since():.0%} of the processors' time lost to other machines"
    print(f"  {name}: p50 {statistics.median(times):.0f} ms, p95 {p95:.0f} ms ({len(times)} times, {lost})")


def measure(page: Page, match: str, end: float) -> None:
    page.goto(f"{ADDRESS}/matches/{match}")
    page.wait_for_function("document.querySelector('video')?.readyState >= 2", timeout=60_000)
    page.wait_for_timeout(1_000)
    page.evaluate(WATCH_KEYS)
    page.evaluate(WATCH_FRAMES)
    page.evaluate(WATCH_TASKS)
    for _ in range(30):
        page.keyboard.press("ArrowDown")
    page.wait_for_timeout(500)
    page.evaluate("window.frames_shown = []")
    processors = Processors()
    for number in range(ROUNDS):
        page.keyboard.press("ArrowRight")
        page.wait_for_function("count => window.frames_shown.length > count", arg=number, polling=LOOK_MS)
    report("frame step to its frame painted", page.evaluate("window.frames_shown"), processors)
    page.evaluate("window.frames_shown = []")
    spine = page.get_by_test_id("spine")
    for number in range(20):
        rows = spine.locator("ol > li > div > button")
        rows.nth(number % min(12, rows.count())).click()
        page.wait_for_timeout(350)
    report("click on an exchange to its frame painted", page.evaluate("window.frames_shown"), processors)
    for where, jumps, key in (
        ("near the beginning", 200, "ArrowUp"),
        ("near the end", round(end / 5) - 1, "ArrowDown"),
    ):
        for _ in range(jumps):  # 5 s each
            page.keyboard.press(key)
        page.wait_for_timeout(1_000)
        page.evaluate("window.times = []")
        processors = Processors()
        for number in range(ROUNDS):
            page.keyboard.press("gstm"[number % 4])
            page.wait_for_function("count => window.times.length > count", arg=number, polling=LOOK_MS)
            page.keyboard.press("ArrowRight")
            page.wait_for_timeout(120)
        report(f"key press to verdict painted, {where}", page.evaluate("window.times"), processors)
    page.evaluate("window.long_tasks = []")
    page.keyboard.press("Space")
    time.sleep(8)
    page.keyboard.press("Space")
    tasks = page.evaluate("window.long_tasks")
    print(f"  playing 8 s: {len(tasks)} tasks over 50 ms{f', the longest {max(tasks):.0f} ms' if tasks else ''}")


@contextmanager
def signed_in() -> Iterator[Page]:
    """A page of the running app, signed in as the demo's coach."""
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(**LAUNCH)
        page = browser.new_page(viewport={"width": 1280, "height": 800}, bypass_csp=True)  # to poll it
        page.goto(ADDRESS)
        page.get_by_label("Name").fill("coach")
        page.get_by_label("Password").fill("amber-on-the-mat")
        page.get_by_role("button", name="Sign in").click()
        page.get_by_role("heading", name="Matches").wait_for()
        yield page
        browser.close()


def main() -> None:
    with signed_in() as page:
        longest = max(call(page, "GET", "matches")["results"], key=lambda match: match["observed"])
        log = call(page, "GET", f"matches/{longest['id']}/log")
        clip = full_hd(page)
        made = []
        try:
            for name, one in ((f"{longest['observed']} observations", log), (f"{LONG} observations", long_log())):
                setting = {"athlete": longest["athlete"], "opponent": "Bench", "clip": clip, "log": one}
                made.append(call(page, "POST", "matches", setting)["id"])
                print(f"{name}, 1080p:")
                measure(page, made[-1], one["observations"][-1]["t"])
        finally:
            for match in made:
                call(page, "DELETE", f"matches/{match}")
            call(page, "DELETE", f"clips/{clip}")


if __name__ == "__main__":
    main()
