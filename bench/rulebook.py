"""How fast a name is answered in the rulebook while it is typed, in a real browser.

./start && .venv/bin/python -m bench.rulebook
"""

from __future__ import annotations

from bench.desk import ADDRESS, Processors, report, signed_in

NAMES = (
    "gilotine",
    "kata gatame",
    "rear naked choke",
    "inverted heel hook",
    "belly down ankle lock",
    "kimura",
    "banana split",
)

# From a key to the answer's own words being on the screen: a task after the next animation frame.
WATCH = """() => {
  window.times = [];
  let pressed = 0;
  const asking = document.querySelector("[aria-label='Ask by name']");
  asking.querySelector("input").addEventListener("keydown", () => { pressed = performance.now(); }, true);
  new MutationObserver(() => {
    if (!pressed) return;
    const from = pressed;
    pressed = 0;
    requestAnimationFrame(() => setTimeout(() => window.times.push(performance.now() - from)));
  }).observe(asking, { childList: true, subtree: true, characterData: true });
}"""


def main() -> None:
    with signed_in() as page:
        page.goto(f"{ADDRESS}/rulebook?age=14&belt=green&attire=gi&ruleset=full-points")
        field = page.get_by_label("Is it legal?")
        field.click()
        page.evaluate(WATCH)
        processors = Processors()
        for name in NAMES:
            for letter in name:
                page.keyboard.press(letter)
                page.wait_for_timeout(60)
            field.fill("")
            page.wait_for_timeout(60)
        report("letter to answer painted", page.evaluate("window.times"), processors)


if __name__ == "__main__":
    main()
