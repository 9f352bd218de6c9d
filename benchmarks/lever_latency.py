"""From the press of a lever to its result on screen, in a real browser: ``bin/bench screen``."""

import statistics
import sys

from e2e.product import KEYED, product_in_a_browser

PRESSES = 80

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
    """Press levers up and down and print median and 95th percentile."""
    with product_in_a_browser() as (product, browser):
        page = browser.new_page(viewport={"width": 1280, "height": 800}, extra_http_headers=KEYED)
        page.goto(product.begin())
        page.get_by_role("tab").first.wait_for()
        page.wait_for_timeout(1000)
        times = []
        for i in range(PRESSES):
            label = ("Stage 1 driver", "Cells in series")[i // 2 % 2]
            times.append(page.evaluate(PRESS, [f"{label} {'down' if i % 2 else 'up'}"]))
            page.wait_for_timeout(60)
    times.sort()
    print(
        f"press to screen over {len(times)} presses: median {statistics.median(times):.0f} ms, "
        f"95th percentile {times[int(0.95 * len(times))]:.0f} ms, worst {times[-1]:.0f} ms"
    )


if __name__ == "__main__":
    sys.exit(main())
