"""From the press of a start to first result and whole answer on screen: ``bin/bench search``."""

import statistics
import sys
import time
from typing import Any

from playwright.sync_api import Page

from e2e.product import KEYED, product_in_a_browser

SEARCHES = 8

WATCH = """() => {
  const told = window.told = {};
  const seen = new MutationObserver(() => {
    const note = (name) => {
      if (name in told) return;
      told[name] = null;
      requestAnimationFrame(() => setTimeout(() => { told[name] = performance.now(); }));
    };
    if (document.querySelector('main ol > li')) note('first');
    if (/do all of this/.test(document.querySelector('main')?.innerText ?? '')) note('whole');
  });
  seen.observe(document.body, {subtree: true, childList: true, characterData: true});
  addEventListener('click', () => { told.press = performance.now(); }, {capture: true, once: true});
}"""


def main() -> None:
    """Begin the trike's brief again and again, and print how long its answers took."""
    with product_in_a_browser() as (product, browser):
        page = browser.new_page(viewport={"width": 1280, "height": 800}, extra_http_headers=KEYED)
        page.goto(product.url)
        # Workers make the gearings of all starts first, which is the product's start.
        page.wait_for_timeout(20_000)
        told = [{**_timed(page, product.url), "pace": _pace()} for _ in range(SEARCHES)]
    for name in ("first", "whole"):
        times = sorted((one[name] - one["press"]) / 1000 for one in told)
        print(
            f"press to {name} answer on screen, {len(times)} searches: median "
            f"{statistics.median(times):.2f} s, from {times[0]:.2f} to {times[-1]:.2f} s"
        )
    paces = sorted(one["pace"] for one in told)
    print(f"five million additions meanwhile: from {paces[0]:.2f} to {paces[-1]:.2f} s")


def _pace() -> float:
    """Return how long this machine takes for a plain loop now; shared ones change their pace."""
    begun, total = time.perf_counter(), 0
    for i in range(5_000_000):
        total += i
    return time.perf_counter() - begun


def _timed(page: Page, url: str) -> Any:
    page.goto(url)
    page.get_by_role("heading", name="Builds").wait_for()
    page.wait_for_timeout(1500)
    page.evaluate(WATCH)
    page.get_by_role("button", name="Find a drive for it: Cargo trike").first.click()
    page.wait_for_function("() => window.told.whole", timeout=60_000)
    return page.evaluate("() => window.told")


if __name__ == "__main__":
    sys.exit(main())
