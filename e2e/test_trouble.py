"""What happens to edits when things break: nothing typed is lost."""

import re
import threading
import uuid

from playwright.sync_api import Browser, Page, expect

from e2e.conftest import open_bench, saved
from e2e.product import KEYED, Product


def cells(page: Page, count: int):
    return page.get_by_role("group", name=re.compile(f"Cells in series, {count} "))


def test_two_tabs_cannot_overwrite_one_another(browser: Browser, product: Product):
    address = product.begin()
    context = browser.new_context(viewport={"width": 1280, "height": 800}, extra_http_headers=KEYED)
    first, second = context.new_page(), context.new_page()
    open_bench(first, address)
    open_bench(second, address)
    # Nobody looks whether the other changed something: the worst case.
    second.evaluate("window.addEventListener('focus', e => e.stopImmediatePropagation(), true)")
    first.get_by_role("button", name="Cells in series up").click()
    saved(first)
    second.get_by_role("button", name="Rolling mass up").click()
    expect(second.get_by_text("changed elsewhere meanwhile")).to_be_visible()
    expect(second.get_by_text("kept as version 3")).to_be_visible()
    assert product.build(address)["document"]["battery"]["series"] == 14
    second.get_by_role("button", name="Both: mine as a build of its own").click()
    expect(cells(second, 14)).to_be_visible()
    names = [card["name"] for card in product.get("/api/builds")["builds"]]
    assert any(name.endswith("(mine)") for name in names)
    first.close()
    second.get_by_role("button", name="Rolling mass up").click()
    saved(second)
    assert product.build(address)["document"]["vehicle"]["mass_kg"] > 195
    context.close()


def test_the_page_goes_on_without_the_database_and_saves_when_it_is_back(
    page: Page, own_product: Product
):
    address = own_product.begin()
    open_bench(page, address)
    own_product.cluster.hold()
    page.get_by_role("button", name="Cells in series up").click()
    expect(cells(page, 14)).to_be_visible()
    expect(page.get_by_text("the database does not answer")).to_be_visible()
    page.get_by_role("button", name="Cells in series up").click()
    expect(cells(page, 15)).to_be_visible()
    # A reload in the middle of it keeps the edits too.
    page.reload()
    expect(page.get_by_text("does not answer; trying again")).to_be_visible()
    own_product.cluster.start()
    expect(cells(page, 15)).to_be_visible(timeout=20_000)
    expect(page.get_by_text("Saved", exact=True)).to_be_visible(timeout=20_000)
    build = own_product.build(address)
    assert (build["document"]["battery"]["series"], build["head"]) == (15, 3)


def test_every_acknowledged_edit_survives_a_killed_server(own_product: Product):
    address = own_product.begin()
    build = own_product.build(address)
    acknowledged: list[int] = []

    def edit() -> None:
        head, document = 1, build["document"]
        for mass in range(200, 2000):
            document["vehicle"]["mass_kg"] = mass
            body = {"base": head, "document": document, "change_id": str(uuid.uuid4())}
            try:
                head = own_product.post(f"/api/builds/{build['id']}/versions", body)["head"]
            except OSError:
                return
            acknowledged.append(mass)

    editing = threading.Thread(target=edit)
    editing.start()
    while len(acknowledged) < 15:
        editing.join(0.02)
    own_product.kill()
    editing.join()
    own_product.start()
    after = own_product.build(address)
    assert after["document"]["vehicle"]["mass_kg"] >= acknowledged[-1]
    versions = own_product.get(f"/api/builds/{build['id']}/versions")
    kept = {version["changes"][0]["after"] for version in versions if version["changes"]}
    assert set(acknowledged[-150:]) <= kept


def test_a_killed_server_under_an_open_page_is_waited_for(page: Page, own_product: Product):
    address = own_product.begin()
    open_bench(page, address)
    own_product.kill()
    page.get_by_role("button", name="Cells in series up").click()
    expect(page.get_by_text("The engine does not answer")).to_be_visible()
    own_product.start()
    expect(cells(page, 14)).to_be_visible(timeout=20_000)
    saved(page)
    assert own_product.build(address)["document"]["battery"]["series"] == 14
