"""A running product and headless Chromium to use it with, for the journeys."""

from collections.abc import Iterator
from typing import Any

import pytest
from playwright.sync_api import Page, expect

from e2e.product import KEYED, LAUNCH, Product

expect.set_options(timeout=10_000)


@pytest.fixture(scope="session")
def product() -> Iterator[Product]:
    running = Product(warm=False)
    running.start()
    yield running
    running.end()


@pytest.fixture
def own_product() -> Iterator[Product]:
    """A product that a test may break."""
    running = Product(warm=False)
    running.start()
    yield running
    running.end()


@pytest.fixture(scope="session")
def browser_type_launch_args() -> dict[str, Any]:
    return LAUNCH


@pytest.fixture(scope="session")
def browser_context_args(product: Product) -> dict[str, Any]:
    """A browser that has the key: in its header for every product, and as a cookie for the one
    that all share, since downloads go without such headers."""
    return {
        "viewport": {"width": 1280, "height": 800},
        "color_scheme": "light",
        "extra_http_headers": KEYED,
        "storage_state": {"cookies": [product.cookie], "origins": []},
    }


@pytest.fixture
def trike(page: Page, product: Product) -> Page:
    """The bench with a trike that nobody else uses."""
    open_bench(page, product.begin())
    return page


def open_bench(page: Page, address: str) -> None:
    page.goto(address)
    expect(page.get_by_role("tab").first).to_be_visible()


def part(page: Page, name: str) -> Any:
    return page.get_by_role("region", name=name, exact=True)


def find(page: Page, product: Product, name: str) -> None:
    """Show the list with the builds of a name; others may have begun many meanwhile."""
    page.goto(product.url)
    field = page.get_by_label("Find a build")
    if not page.get_by_role("link", name=name, exact=True).is_visible():
        field.or_(page.get_by_role("link", name=name, exact=True)).first.wait_for()
    if field.is_visible():
        field.fill(name)
    expect(page.get_by_role("link", name=name, exact=True)).to_be_visible()


def open_part(page: Page, name: str) -> Any:
    part(page, name).get_by_role("button").first.click()
    editor = page.get_by_role("region", name=f"{name}, all inputs")
    expect(editor).to_be_visible()
    return editor


def saved(page: Page) -> None:
    expect(page.get_by_text("Saved", exact=True)).to_be_visible()
