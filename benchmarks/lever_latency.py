"""From the press of a lever to its result on screen, in a real browser: ``bin/bench screen``."""

import statistics
import sys

from e2e.product import KEYED, product_in_a_browser

PRESSES = 60

SETTLES_MS = 25_000
"""After so long nothing is read and worked out any more that a beginning product works out."""

PRESS = """async ([label]) => {
  const section = document.querySelector('section[aria-label="Vehicle and trip"]');
  const button = document.querySelector(`button[aria-label="${label}"]`);
  const begun = performance.now();
  const changed = new Promise(done => {
    const seen = new MutationObserver(() => {
      seen.disconnect();
      requestAnimationFrame(() => done());
    });
    seen.observe(section, {subtree: true, childList: true, characterData: true});
  });
  button.click();
  await changed;
  return performance.now() - begun;
}"""


def main() -> None:
    """Press levers, each to what is new, and print median and 95th percentile."""
    with product_in_a_browser() as (product, browser):
        page = browser.new_page(viewport={"width": 1280, "height": 800}, extra_http_headers=KEYED)
        page.goto(product.begin())
        page.get_by_role("tab").first.wait_for()
        page.wait_for_timeout(SETTLES_MS)
        times = []
        for i in range(PRESSES):
            # Each leads where nobody has been: answers that were given before are remembered.
            label = ("Rolling mass up", "Rolls down", "Cells in series up")[i % 3]
            times.append(page.evaluate(PRESS, [label]))
            page.wait_for_timeout(60)
    times.sort()
    print(
        f"press to screen over {len(times)} presses: median {statistics.median(times):.0f} ms, "
        f"95th percentile {times[int(0.95 * len(times))]:.0f} ms, worst {times[-1]:.0f} ms"
    )


if __name__ == "__main__":
    sys.exit(main())
