"""A page from elsewhere in the same browser: it reads nothing, writes nothing, blocks nothing."""

import json
import threading
import time
import urllib.request
from collections.abc import Iterator
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer

import pytest
from playwright.sync_api import Browser, BrowserContext, expect

from e2e.product import DEMO, KEY, Product

ATTACK = """<!doctype html><title>A harmless page</title><p id="told">at work</p>
<iframe name="aside" style="display:none"></iframe>
<form id="form" target="aside" method="post" action="PRODUCT/api/builds" enctype="text/plain">
  <input name='{"document": DOCUMENT, "change_id": "6f1c6d0e-6c3c-4f7e-9d5e-00000000000a", "x": "'
         value='"}'></form>
<script>
const told = { read: [], refused: 0 };
const done = [];
for (const path of PATHS) {
  for (let n = 0; n < 12; n++) {
    const image = new Image();
    image.src = "PRODUCT" + path + "?n=" + n;
    document.body.append(image);
  }
  const script = document.createElement("script");
  script.src = "PRODUCT" + path;
  script.onload = () => told.read.push("script " + path);
  document.body.append(script);
  for (const how of [{}, { credentials: "include" }, { mode: "no-cors", credentials: "include" }])
    done.push(fetch("PRODUCT" + path, how).then(
      async (answer) => { if (answer.ok || (await answer.text())) told.read.push(path); },
      () => { told.refused++; }));
}
const change_id = "6f1c6d0e-6c3c-4f7e-9d5e-00000000000b";
const body = JSON.stringify({ document: DOCUMENT, change_id });
for (const type of ["text/plain", "application/json", "application/x-www-form-urlencoded"])
  for (const mode of ["no-cors", "cors"])
    done.push(fetch("PRODUCT/api/builds", { method: "POST", body, mode, credentials: "include",
                                            headers: { "Content-Type": type } }).catch(() => 0));
for (const method of ["DELETE", "PUT"])
  done.push(fetch("PRODUCT/api/builds/BUILD", { method, credentials: "include" }).catch(() => 0));
navigator.sendBeacon("PRODUCT/api/builds/BUILD/undo", JSON.stringify({ base: 2 }));
document.getElementById("form").submit();
Promise.allSettled(done).then(() => {
  document.getElementById("told").textContent = "done: " + JSON.stringify(told.read);
});
</script>"""

PATHS = ["/api/builds", "/api/shelf", "/api/archive", "/api/builds/table", "/api/upkeep"]


@pytest.fixture
def elsewhere(product: Product) -> Iterator[tuple[ThreadingHTTPServer, str]]:
    """Another server on this machine, whose page asks all it can of the product."""
    build = product.begin().rsplit("/", 1)[1]
    document = json.dumps(json.loads((DEMO / "causeway-trike.json").read_text()))
    page = ATTACK.replace("PRODUCT", product.url).replace("PATHS", json.dumps(PATHS))
    page = page.replace("DOCUMENT", document.replace("'", "&#39;")).replace("BUILD", build)

    class Handler(BaseHTTPRequestHandler):
        def do_GET(self) -> None:
            self.send_response(200)
            self.send_header("Content-Type", "text/html; charset=utf-8")
            self.end_headers()
            self.wfile.write(page.encode())

        def log_message(self, *_: object) -> None: ...

    server = ThreadingHTTPServer(("127.0.0.1", 0), Handler)
    threading.Thread(target=server.serve_forever, daemon=True).start()
    yield server, build
    server.shutdown()


@pytest.fixture
def context(browser: Browser, product: Product) -> Iterator[BrowserContext]:
    """A browser whose owner opened the address with the key, as bin/start prints it."""
    made = browser.new_context()
    page = made.new_page()
    page.goto(f"{product.url}/?key={KEY}")
    expect(page.get_by_role("tab", name="I have parts")).to_be_visible()
    assert page.url == f"{product.url}/"
    page.close()
    yield made
    made.close()


@pytest.mark.parametrize("host", ["127.0.0.1", "localhost"])
def test_a_page_from_elsewhere(product, context, elsewhere, host):
    server, build = elsewhere
    before = product.get("/api/builds?limit=1")["total"]
    head = product.get(f"/api/builds/{build}")["head"]
    waits: list[float] = []
    over = threading.Event()

    def ask() -> None:
        while not over.is_set():
            begun = time.monotonic()
            with urllib.request.urlopen(f"{product.url}/api/health", timeout=10) as answer:
                answer.read()
            waits.append(time.monotonic() - begun)
            over.wait(0.02)

    asking = threading.Thread(target=ask)
    asking.start()
    page = context.new_page()
    page.goto(f"http://{host}:{server.server_port}/")
    expect(page.locator("#told")).to_have_text("done: []", timeout=20_000)
    over.set()
    asking.join()
    # It goes on being answered meanwhile: none of the questions came as far as the engine.
    assert len(waits) > 5
    assert product.get("/api/health")["waiting"] == 0
    assert product.get("/api/builds?limit=1")["total"] == before
    assert product.get(f"/api/builds/{build}")["head"] == head
    # The owner's own page is answered in the same browser.
    own = context.new_page()
    own.goto(product.url)
    expect(own.get_by_role("tab", name="I have parts")).to_be_visible()


def test_a_browser_without_the_key_is_told_how_to_get_it(browser: Browser, product: Product):
    context = browser.new_context(viewport={"width": 390, "height": 800})
    page = context.new_page()
    page.goto(product.url)
    expect(page.get_by_role("heading", name="This browser has no key yet")).to_be_visible()
    page.goto(f"{product.url}/?key=guessed")
    expect(page.get_by_text("This key opens nothing here")).to_be_visible()
    context.close()
