"""From key press to verdict painted, on the demo's longest match, in a real browser.

./start && .venv/bin/python bench/desk.py
"""

from __future__ import annotations

import os
import statistics
from typing import Any

from playwright.sync_api import Page, sync_playwright

ADDRESS = f"http://127.0.0.1:{os.environ.get('JURATA_PORT', '8417')}"
ROUNDS = 60
ARGUMENTS = ["--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking", "--disable-sync"]

# The save line says that everything is saved in the same breath as the verdict is drawn;
# a task after the next animation frame that is on the screen.
WATCH = """() => {
  window.times = [];
  let pressed = 0, away = false;
  window.addEventListener("keydown", () => { pressed = performance.now(); away = false; }, true);
  const line = document.querySelector("[data-testid=save-state]");
  new MutationObserver(() => {
    if (line.textContent !== "Saved") { away = true; return; }
    if (!away) return;
    away = false;
    const from = pressed;
    requestAnimationFrame(() => setTimeout(() => window.times.push(performance.now() - from)));
  }).observe(line, { characterData: true, childList: true, subtree: true });
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


def main() -> None:
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(
            executable_path="/usr/bin/chromium", chromium_sandbox=os.geteuid() != 0, args=ARGUMENTS
        )
        page = browser.new_page(viewport={"width": 1280, "height": 800}, bypass_csp=True)  # to poll it
        page.goto(ADDRESS)
        page.get_by_label("Name").fill("coach")
        page.get_by_label("Password").fill("amber-on-the-mat")
        page.get_by_role("button", name="Sign in").click()
        page.get_by_role("heading", name="Matches").wait_for()
        longest = max(call(page, "GET", "matches"), key=lambda match: match["observed"])
        log = call(page, "GET", f"matches/{longest['id']}/log")
        setting = {"athlete": longest["athlete"], "opponent": "Bench", "clip": longest["clip"], "log": log}
        copy = call(page, "POST", "matches", setting)
        try:
            page.goto(f"{ADDRESS}/matches/{copy['id']}")
            page.wait_for_function("document.querySelector('video')?.readyState >= 2")
            for _ in range(60):
                page.keyboard.press("ArrowDown")
            page.evaluate(WATCH)
            for number in range(ROUNDS):
                page.keyboard.press("gstm"[number % 4])
                page.wait_for_function("count => window.times.length > count", arg=number)
                page.keyboard.press("ArrowRight")
                page.wait_for_timeout(120)
            times = sorted(page.evaluate("window.times"))
        finally:
            call(page, "DELETE", f"matches/{copy['id']}")
            browser.close()
    p95 = times[int(len(times) * 0.95)]
    said = f"{longest['observed']} observations, {len(times)} key presses"
    print(f"key press to verdict painted: p50 {statistics.median(times):.0f} ms, p95 {p95:.0f} ms ({said})")


if __name__ == "__main__":
    main()
