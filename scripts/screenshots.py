"""Take the pictures of docs/screenshots from the demo data of a running ./start.

./start && .venv/bin/python scripts/screenshots.py
"""

from __future__ import annotations

import os
import sys
from pathlib import Path

from playwright.sync_api import Page, sync_playwright

sys.path.insert(0, str(Path(__file__).resolve().parents[1]))
from scripts.chromium import LAUNCH

ADDRESS = f"http://127.0.0.1:{os.environ.get('JURATA_PORT', '8417')}"
FOLDER = Path(__file__).resolve().parents[1] / "docs" / "screenshots"


def take(page: Page, name: str) -> None:
    page.wait_for_timeout(900)  # let the frame of the clip and the fonts arrive
    page.screenshot(path=FOLDER / f"{name}.png")


def take_board(page: Page) -> None:
    """The scoreboard of the match that is not scored yet, found in the picture."""
    page.get_by_role("button", name="Read the scoreboard in the picture").click()
    page.get_by_role("button", name="Whole scoreboard").click()
    box = page.get_by_test_id("stage").bounding_box()
    assert box is not None
    page.mouse.move(box["x"] + 0.03 * box["width"], box["y"] + 0.05 * box["height"])
    page.mouse.down()
    page.mouse.move(box["x"] + 0.36 * box["width"], box["y"] + 0.47 * box["height"], steps=8)
    page.mouse.up()
    page.get_by_test_id("shows").first.wait_for()
    take(page, "board")
    page.get_by_role("button", name="Close").click()


def take_practice(page: Page) -> None:
    """The practice, at the three seconds of the takedown."""
    page.get_by_role("heading", name="Matches", exact=True).wait_for()
    page.keyboard.press("?")
    page.get_by_role("button", name="Practise on a 90-second clip").click()
    page.locator("video").wait_for(timeout=120_000)
    page.wait_for_timeout(1_500)
    for t, key in ((4, "c"), (14, "g")):
        page.get_by_label("Time in the footage").fill(str(t))
        page.keyboard.press(key)
        page.wait_for_timeout(500)
    page.get_by_label("Time in the footage").fill("16")
    take(page, "practice")
    page.get_by_role("link", name="Leave").click()


def take_rulebook(page: Page) -> None:
    """A teenager's division: a name asked for, and the briefing."""
    division = "age=15&belt=green&attire=gi&ruleset=full-points&athlete=Ilya+Marsh"
    page.goto(f"{ADDRESS}/rulebook?{division}")
    page.get_by_label("Is it legal?").fill("anaconda")
    page.get_by_test_id("answer").get_by_role("table").wait_for()
    take(page, "rulebook")
    page.goto(f"{ADDRESS}/api/division/briefing?{division}")
    take(page, "briefing")


def take_review(page: Page) -> None:
    """What cost the match, its chains, the officials, and the report on its way to the phone."""
    page.get_by_text("What mattered").wait_for()
    page.get_by_text("The pale band is the 80% range").wait_for(timeout=60_000)
    page.keyboard.press("j")
    page.evaluate("window.scrollTo(0, 120)")
    take(page, "review")
    page.get_by_role("tab", name="The match").click()
    page.wait_for_timeout(500)
    page.evaluate("window.scrollTo(0, document.body.scrollHeight)")
    take(page, "review-match")
    page.evaluate("window.scrollTo(0, 0)")
    page.get_by_role("tab", name="Officials").click()
    page.get_by_role("heading", name="To ask at the event").wait_for()
    take(page, "review-officials")
    page.get_by_role("tab", name="Report").click()
    page.get_by_role("heading", name="Clips for the report").wait_for()
    if page.get_by_role("button", name="missing").count():  # none is where they were made before
        page.get_by_role("button", name="missing").click()
    page.get_by_role("button", name="All clips made").wait_for()
    page.get_by_role("progressbar").first.wait_for(state="detached", timeout=120_000)
    take(page, "review-report")
    page.get_by_role("button", name="Create link").click()
    link = page.get_by_label("The link").input_value()
    back = page.url
    page.set_viewport_size({"width": 390, "height": 844})
    page.goto(link)
    page.get_by_role("heading", name="What mattered").wait_for()
    page.evaluate("window.scrollTo(0, 420)")
    take(page, "report-phone")
    page.goto(back)
    page.set_viewport_size({"width": 1280, "height": 800})


def take_season(page: Page) -> None:
    """What costs the club most, an athlete's season with its drills, and the day of an event."""
    page.goto(f"{ADDRESS}/season")
    page.get_by_role("heading", name="Do the chances come true?").wait_for()
    take(page, "season-club")
    page.goto(f"{ADDRESS}/athletes")
    page.get_by_role("link", name="Wren Oakley", exact=True).click()
    page.get_by_role("heading", name="What comes back").wait_for()
    page.evaluate("window.scrollTo(0, 560)")
    take(page, "season-athlete")
    page.get_by_role("link", name="Plan the drills").click()
    page.get_by_role("heading", name="Did it help?").wait_for()
    take(page, "plan")
    page.goto(f"{ADDRESS}/days")
    page.get_by_role("link", name="Midwinter Open").click()
    page.get_by_text("Met before").first.wait_for()
    take(page, "event-day")


def sign_in(page: Page, name: str) -> None:
    page.get_by_label("Name").fill(name)
    page.get_by_label("Password").fill("amber-on-the-mat")
    page.get_by_role("button", name="Sign in").click()


def main() -> None:
    FOLDER.mkdir(parents=True, exist_ok=True)
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(**LAUNCH)
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        page.goto(ADDRESS)
        page.get_by_label("Password").wait_for()
        take(page, "sign-in")
        sign_in(page, "coach")
        page.get_by_role("heading", name="Wren Oakley").first.wait_for()
        while page.get_by_text("Clip in line").count() + page.get_by_label("Work on the clip").count():
            page.wait_for_timeout(1_000)  # the clips are filmed in the background
        page.wait_for_timeout(3_000)
        take(page, "matches")
        take_practice(page)
        page.get_by_role("link", name="New match").click()
        page.get_by_label("Your athlete").select_option("Dara Finch")
        take(page, "new-match")
        page.get_by_role("link", name="Matches").click()

        page.get_by_label("Search matches").fill("June Pell")
        unscored = page.get_by_role("listitem").filter(has_text="June Pell")
        unscored.get_by_role("link", name="Score it").click()
        take_board(page)
        page.get_by_role("link", name="Matches").click()
        page.get_by_label("Search matches").fill("Lio Varga")
        row = page.get_by_role("listitem").filter(has_text="Lio Varga")
        row.get_by_role("link", name="Open the desk").click()
        page.get_by_role("button", name="1:21").click()
        for _ in range(33):
            page.keyboard.press("Shift+ArrowRight")
        for _ in range(12):
            page.keyboard.press("ArrowRight")
        take(page, "desk")
        page.get_by_role("link", name="Matches").click()
        page.get_by_label("Search matches").fill("Lio Varga")
        row.get_by_role("link", name="Review").click()
        take_review(page)
        take_rulebook(page)
        take_season(page)
        page.goto(f"{ADDRESS}/club")
        page.get_by_role("heading", name="Guardians").wait_for()
        take(page, "club")
        guardian = browser.new_context(viewport={"width": 390, "height": 844}).new_page()
        guardian.goto(ADDRESS)
        sign_in(guardian, "sol")
        guardian.get_by_role("heading", name="Links to reports").wait_for()
        take(guardian, "own-phone")
        browser.close()


if __name__ == "__main__":
    main()
