"""Test days as people have them: with a tape, a photographed display, a dying machine."""

import io
import os
import signal
import subprocess
import threading
import urllib.request
import uuid
from pathlib import Path

from PIL import Image
from playwright.sync_api import Page, expect

from e2e.conftest import open_bench
from e2e.product import Product
from e2e.test_builds import findings
from e2e.test_logbook import read


def entering(page: Page, address: str) -> None:
    open_bench(page, address)
    page.keyboard.press("l")
    page.get_by_role("tab", name="Enter a run").click()


def keep(page: Page) -> None:
    page.get_by_role("button", name="Keep this run").click()
    expect(page.get_by_text("Kept.")).to_be_visible(timeout=20_000)


def test_a_lost_log_leaves_a_photographed_display(page: Page, product: Product, tmp_path: Path):
    """Three passes, only the speed display seen: turns, amps and load factor come back from it."""
    address = product.begin()
    entering(page, address)
    for speed in (33.9, 34.2, 34.0):
        read(page, "Top speed", Speed=speed)
    beside = page.get_by_role("region", name="Beside what was predicted")
    # 34 km/h on a tyre of 1.83 m: turns of the wheel times those of both stages.
    build = product.build(address)["document"]
    teeth = [stage["driven_teeth"] / stage["driver_teeth"] for stage in build["gearing"]]
    wheel = 34.0 / 3.6 / build["wheel"]["rolling_circumference_mm"] * 60_000
    turns = f"{wheel * teeth[0] * teeth[1]:,.0f}"
    expect(beside).to_contain_text(f"{turns} rpm", timeout=20_000)
    expect(beside).to_contain_text("load factor of the trade's formula")
    expect(beside).to_contain_text("its KV is")
    keep(page)
    page.get_by_role("tab", name="Runs").click()
    photo = tmp_path / "display.jpg"
    into = io.BytesIO()
    Image.new("RGB", (900, 700), (30, 30, 60)).save(into, "JPEG")
    photo.write_bytes(into.getvalue())
    page.get_by_label("Photo of run 1").set_input_files(photo)
    expect(page.get_by_alt_text("1 of run 1")).to_be_visible()
    # A picture stands there before all of it has come.
    expect(page.get_by_alt_text("1 of run 1")).to_have_js_property("naturalWidth", 900)
    page.get_by_role("button", name="Take out photo 1 of run 1").click()
    page.get_by_role("button", name="Bring the photo back").click()
    expect(page.get_by_alt_text("1 of run 1")).to_be_visible()
    assert findings(page) == []


def test_tape_and_tachometer_teach_tyre_and_kv(page: Page, product: Product):
    """No display at all: one turn by tape, turns with the wheels up, a lap by stopwatch."""
    entering(page, product.begin())
    read(page, "Tape", One_turn=1812)
    read(page, "Wheels up", Motor=3180, Pack_volts=53.6)
    page.get_by_role("radio", name="Top speed").click()
    for label, figure in (("Way", "400"), ("in", "39.4")):
        field = page.get_by_label(label, exact=False).and_(page.locator("input"))
        named = page.locator("label", has_text=label).get_by_role("textbox")
        (named if field.count() != 1 else field).last.fill(figure)
        page.keyboard.press("Tab")
    expect(page.get_by_text("makes 36.5 km/h")).to_be_visible()
    page.get_by_role("button", name="Add it to the run").click()
    assert findings(page) == []
    keep(page)
    page.get_by_role("tab", name="What they teach").click()
    teach = page.get_by_role("region", name="What the runs teach")
    expect(teach).to_contain_text("One run teaches", timeout=30_000)
    expect(teach.get_by_role("row", name="KV").first).to_be_visible()
    expect(teach.get_by_role("row", name="olling circumference").first).to_be_visible()
    assert findings(page) == []


def test_two_changes_at_once_are_told_apart_by_the_engine(page: Page, product: Product):
    """Another sprocket and another tyre on one evening, and it went no faster."""
    address = product.begin()
    entering(page, address)
    read(page, "Top speed", Speed=34)
    keep(page)
    build = product.build(address)
    document = build["document"]
    document["gearing"][0]["driver_teeth"] += 2
    document["wheel"]["rolling_circumference_mm"] = round(
        document["wheel"]["rolling_circumference_mm"] * 0.94
    )
    body = {"base": 1, "document": document, "change_id": str(uuid.uuid4())}
    product.post(f"/api/builds/{build['id']}/versions", body)
    page.reload()
    read(page, "Top speed", Speed=34.4)
    keep(page)
    page.get_by_role("tab", name="Runs").click()
    story = page.get_by_role("region", name="Measured runs")
    expect(story).to_contain_text("Changed before it")
    page.get_by_role("tab", name="What they teach").click()
    teach = page.get_by_role("region", name="What the runs teach")
    between = teach.get_by_text("run 1 to run 2")
    # The teeth push up, the smaller tyre down; what is left is looked for.
    expect(between).to_contain_text("by stage 1", timeout=30_000)
    expect(between).to_contain_text("rolling circumference")
    expect(between).to_contain_text("is left")
    press = teach.get_by_role("button", name="It was so on run 2").first
    expect(press).to_be_visible()
    press.click()
    expect(teach).to_contain_text("Noted with run 2", timeout=20_000)
    assert findings(page) == []
    page.get_by_role("tab", name="Runs").click()
    expect(story).to_contain_text("On the day")
    story.get_by_role("button", name="Leave out of run 2").click()
    expect(story).not_to_contain_text("On the day")


def test_a_measured_speed_stands_on_its_rung(page: Page, product: Product):
    address = product.begin()
    entering(page, address)
    read(page, "Top speed", Speed=34.2)
    keep(page)
    page.goto(address + "/gearing")
    here = page.get_by_role("button", name="16 to 60 teeth")
    expect(here).to_contain_text("34.2 km/h", timeout=20_000)
    title = page.locator("svg path title", has_text="teeth, measured: 34.2")
    expect(title).to_have_count(1)
    assert findings(page) == []


def test_a_logger_sends_while_the_page_looks(page: Page, product: Product):
    entering(page, product.begin())
    page.get_by_text("A logger that sends while it rides").click()
    page.get_by_role("button", name="Open a line").click()
    told = page.locator("pre").inner_text()
    token, path = told.split("Bearer ")[1].split('"')[0], told.split('"')[3]

    def send(text: str) -> None:
        bearer = {"Authorization": f"Bearer {token}", "Content-Type": "text/plain"}
        asked = urllib.request.Request(path, text.encode(), bearer)
        urllib.request.urlopen(asked, timeout=5).close()

    now = page.get_by_role("group", name="What the logger reads now")
    expect(now).to_contain_text("Nothing came yet")
    send("time_s,speed,battery current\n")
    send("".join(f"{at},{20 + 0.1 * (at % 2)},7.5\n" for at in range(40)))
    expect(now).to_contain_text("7.50 A", timeout=10_000)
    assert findings(page) == []
    page.get_by_role("button", name="Take in what it sent").click()
    expect(page.get_by_text("40 rows over")).to_be_visible(timeout=20_000)
    page.get_by_role("button", name="Take it into the run").first.click()
    page.get_by_role("button", name="Shut it").click()
    expect(page.get_by_text("Shut. What came over it stays")).to_be_visible()


def test_a_track_and_a_table_are_laid_beside_each_other(
    page: Page, product: Product, tmp_path: Path
):
    course = [0] * 8 + [3, 6, 9] + [10] * 40 + [8, 5] + [4] * 30 + [2, 0, 0]
    spots, way = [], 0.0
    for at, speed in enumerate(course):
        way += speed
        stamp = f"2026-05-01T10:{at // 60:02d}:{at % 60:02d}Z"
        spots.append(f'<trkpt lat="{50 + way / 111_195:.7f}" lon="8"><time>{stamp}</time></trkpt>')
    track, table = tmp_path / "ride.gpx", tmp_path / "log.csv"
    track.write_text(
        '<gpx version="1.1" creator="made up" xmlns="http://www.topografix.com/GPX/1/1">'
        f"<trk><trkseg>{''.join(spots)}</trkseg></trk></gpx>"
    )
    rows = "\n".join(f"{at},{v * 300},{v * 0.8}" for at, v in enumerate(course[6:]))
    table.write_text(f"time_s,rpm,battery current\n{rows}")
    entering(page, product.begin())
    page.get_by_label("Logger's table").set_input_files(track)
    expect(page.get_by_text("if it was flat out").first).to_be_visible(timeout=20_000)
    page.get_by_label("Second table").set_input_files(table)
    expect(page.get_by_text("which go together at")).to_be_visible(timeout=20_000)
    page.get_by_role("button", name="Take it into the run").first.click()
    beside = page.get_by_role("region", name="Beside what was predicted")
    expect(beside).to_contain_text("8.00 A", timeout=20_000)
    assert findings(page) == []


def test_every_acknowledged_run_survives_a_killed_server_and_database(own_product: Product):
    address = own_product.begin()
    logbook = f"/api/builds/{address.rsplit('/', 1)[1]}/logbook"
    acknowledged: list[str] = []

    def enter() -> None:
        for speed in range(1, 2000):
            own = str(uuid.uuid4())
            seen = {"kind": "top_speed", "speed_kmh": 20 + speed / 100}
            body = {"version": 1, "run": {"observations": [seen]}}
            try:
                own_product.put(f"{logbook}/runs/{own}", body)
            except OSError:
                return
            acknowledged.append(own)

    entry = threading.Thread(target=enter)
    entry.start()
    while len(acknowledged) < 12:
        entry.join(0.02)
    postmaster = int((own_product.cluster.data / "postmaster.pid").read_text().split()[0])
    told = subprocess.run(["pgrep", "-P", str(postmaster)], capture_output=True, text=True)
    for pid in [postmaster, *(int(line) for line in told.stdout.split())]:
        os.kill(pid, signal.SIGKILL)
    own_product.kill()
    entry.join()
    own_product.start()
    kept = {run["id"] for run in own_product.get(logbook)}
    assert set(acknowledged) <= kept
    # At most the one that was on its way is there beside them.
    assert len(kept) <= len(acknowledged) + 1
