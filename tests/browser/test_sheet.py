"""The sheet in a browser: a visit typed and read off, at a desk and on a phone; bad input; lost connection;
two tabs.
"""

import pytest
from playwright.sync_api import expect

from web.visits.models import Observation, Reading

TYPED = {
    "system.running_time": "20", "outdoor.dry_bulb": "90.8", "return_unit.dry_bulb": "76.4", "return_unit.rh": "52",
    "supply_plenum.dry_bulb": "55.8", "supply_plenum.rh": "91",
}  # fmt: skip
FLOW = "blower.airflow@flow_device"


def type_visit(sheet, **changes):
    """A sound machine."""
    sheet.choose("strip_heat", "off")
    sheet.choose("coil", "wet")
    sheet.name_probe()
    for name, value in {**TYPED, **changes}.items():
        sheet.type(name, value)


def too_small(page):
    """Touch targets in sight that are under 44 px high."""
    return page.evaluate("""[...document.querySelectorAll('main button, main select, main label.choice, .box')]
        .filter(el => el.offsetParent && el.getBoundingClientRect().height < 44)
        .map(el => el.outerHTML.slice(0, 80))""")


def test_a_technician_starts_a_visit_types_it_and_reads_the_answer(sheet, shop):
    page = sheet.page
    expect(page.get_by_role("heading", name="Today")).to_be_visible()
    sheet.sent()
    page.keyboard.press("/")
    page.wait_for_url("**/houses/#find")
    page.keyboard.type("oh")
    expect(page.locator("#found li")).to_have_count(1)
    page.keyboard.press("Enter")
    page.get_by_role("button", name="Start a visit").click()
    expect(sheet.headline).to_have_text("Not enough read yet.")
    type_visit(sheet)
    sheet.go_to("blower")
    page.get_by_role("button", name="Guess 1200").click()
    expect(sheet.headline).to_have_text("Cannot tell yet: the airflow is not measured.")
    sheet.type(FLOW, "1200")
    expect(sheet.headline).to_have_text("This system does what it should today.")
    sheet.go("judge")
    for label, shown in (
        ("Temperature split", "20.6"),
        ("Temperature split", "in range"),
        ("Airflow", "400"),
        ("Capacity", "±"),
    ):
        expect(sheet.mark(label)).to_contain_text(shown)
    sheet.sent()
    # The airflow twice: guessed, then measured.
    assert Reading.objects.count() == 8 and Observation.objects.count() == 2
    sheet.still()
    page.locator('.mark[data-readout^="Supply plenum"] circle').first.hover()
    expect(page.locator("[data-readout-line]")).to_contain_text("Supply plenum: 55.8 °F, 91 %")

    sheet.type("supply_plenum.dry_bulb", "51.8")
    expect(page.locator("#marks-supply_plenum")).to_contain_text("borderline")
    expect(sheet.note("supply_plenum.dry_bulb")).to_contain_text("was 55.8 °F")
    sheet.type(FLOW, "870")
    expect(sheet.headline).to_have_text("Low airflow.")
    expect(page.locator(".says")).to_contain_text("Do not add refrigerant")
    page.reload()
    expect(sheet.headline).to_have_text("Low airflow.")
    expect(sheet.field("supply_plenum.dry_bulb")).to_have_value("51.8")


def test_previews_store_nothing_and_an_unchanged_value_makes_no_reading(sheet):
    sheet.open("read/return_unit")
    sheet.field("return_unit.dry_bulb").press_sequentially("76.4", delay=40)
    expect(sheet.page.locator(".says")).not_to_contain_text("return dry bulb,")
    assert Reading.objects.count() == 0
    sheet.field("return_unit.dry_bulb").press("Tab")
    sheet.sent()
    sheet.still()
    for _ in range(2):
        sheet.field("return_unit.dry_bulb").focus()
        sheet.field("return_unit.dry_bulb").press("Enter")
    sheet.page.reload()
    sheet.field("return_unit.dry_bulb").press("Tab")
    sheet.sent()
    sheet.still()
    assert Reading.objects.count() == 1


def test_on_a_phone_one_place_at_a_time_in_walking_order_with_the_verdict_pinned(sheet):
    page = sheet.page
    page.set_viewport_size({"width": 390, "height": 844})
    sheet.open("settle")
    sheet.type("system.running_time", "20")
    sheet.choose("strip_heat", "none")
    sheet.go("read")
    walk = {
        "Outdoor, shade": {"outdoor.dry_bulb": "90.8"},
        "Return at the unit": {"return_unit.dry_bulb": "76.4", "return_unit.rh": "52"},
        "Supply plenum": {"supply_plenum.dry_bulb": "49.5", "supply_plenum.rh": "95"},
        "Near register": {},  # so high a split says low airflow: the ducts become a question
        "Statics": {},
        "Filter drop": {"filter.pressure_drop": "0.31"},
        "Coil drop": {},
        "Blower and airflow": {},
        "Attic": {},
    }
    for name, typed in walk.items():
        expect(page.locator(".stop:visible h2")).to_contain_text(name)
        for field, value in typed.items():
            assert sheet.field(field).get_attribute("inputmode") == "decimal"
            sheet.field(field).fill(value)
        if name == "Coil drop":
            sheet.pick(page.locator("#stop-coil [data-impossible]"), value="no_port")
            expect(sheet.note("coil.pressure_drop")).to_contain_text("Not possible: no port or hole.")
        if name == "Blower and airflow":
            page.get_by_role("button", name="Guess 1200").click()
        sheet.still()
        expect(page.locator(".pin")).to_be_in_viewport(ratio=1)  # the verdict stays in sight
        expect(page.locator(".pin .next-pinned")).to_contain_text("Next:")  # and what to do next
        assert page.evaluate("document.documentElement.scrollWidth") == 390, f"nothing sticks out sideways at {name}"
        assert too_small(page) == [], name
        page.locator(".next:visible").click()
    expect(page.locator("[data-station-to=air]")).to_have_attribute("aria-current", "step")
    expect(sheet.headline).to_have_text("Filter loaded or blocked.")
    for station in ("air", "judge", "fix", "arrive"):
        sheet.go(station)
        sheet.still()
        assert page.evaluate("document.documentElement.scrollWidth") == 390 and too_small(page) == [], station
    sheet.go("judge")
    expect(sheet.mark("Temperature split")).to_contain_text("high")
    expect(page.locator("svg.psychrometric")).to_be_visible()


def test_bad_input_is_said_at_the_field_kept_there_and_not_stored(sheet):
    sheet.open()
    sheet.type("return_unit.rh", "152")
    expect(sheet.note("return_unit.rh")).to_contain_text("Relative humidity is 0 to 100 %; this says 152.")
    sheet.type("outdoor.dry_bulb", "hot")
    expect(sheet.note("outdoor.dry_bulb")).to_contain_text("'hot' is not a number.")
    sheet.type("return_unit.dry_bulb", "24")
    expect(sheet.note("return_unit.dry_bulb")).to_contain_text("Which is it?")
    expect(sheet.page.locator(".troubles")).to_contain_text("Outdoor, shade: dry bulb hot")
    sheet.sent()
    assert Reading.objects.count() == 0
    sheet.page.reload()
    expect(sheet.field("return_unit.rh")).to_have_value("152")
    expect(sheet.field("outdoor.dry_bulb")).to_have_value("hot")

    sheet.page.get_by_role("button", name="24 °C").click()
    expect(sheet.page.locator('.field:has([data-field="return_unit.dry_bulb"]) .sign')).to_have_text("°C")
    expect(sheet.note("return_unit.dry_bulb")).not_to_contain_text("Which is it?")
    sheet.type("return_unit.rh", "52")
    sheet.type("supply_plenum.dry_bulb", "80")
    for end in ("return_unit", "supply_plenum"):
        sheet.go_to(end)
        expect(sheet.note(f"{end}.dry_bulb")).to_contain_text("Supply 80.0 °F is above return 75.2 °F")
    expect(sheet.headline).to_have_text("The air readings contradict each other.")
    sheet.sent()
    stored = {(r.place, r.quantity): (r.typed, r.unit) for r in Reading.objects.all()}
    assert stored == {
        ("return_unit", "dry_bulb"): ("24", "degC"),
        ("return_unit", "rh"): ("52", "pct"),
        ("supply_plenum", "dry_bulb"): ("80", "degF"),
    }


def test_a_lost_connection_and_a_reload_lose_nothing_and_double_nothing(sheet):
    page = sheet.page
    sheet.own_doing = ("ERR_FAILED",)
    sheet.open()
    answers = []

    def store_but_lose_the_answer(route):
        answers.append(route.fetch())  # it reached the server; the answer never came back
        route.abort()

    page.route("**/visits/entries/", store_but_lose_the_answer)
    sheet.type("return_unit.dry_bulb", "76.4")
    expect(sheet.outbox).to_have_text("1 unsent: no connection")
    page.route("**/visits/entries/", lambda route: route.abort())  # comes first: no retry slips through between
    sheet.type("return_unit.rh", "52")
    sheet.choose("coil", "wet")
    expect(sheet.outbox).to_contain_text("3 unsent")
    sheet.go_to("supply_plenum")
    sheet.field("supply_plenum.dry_bulb").press_sequentially("55.")  # half typed when the page goes

    page.reload()
    expect(sheet.outbox).to_contain_text("unsent")
    expect(sheet.field("return_unit.rh")).to_have_value("52")
    expect(sheet.field("supply_plenum.dry_bulb")).to_have_value("55.")
    expect(page.locator('input[name="see.coil"][value=wet]')).to_be_checked()
    assert Reading.objects.count() == 1 and answers[0].ok

    page.unroute("**/visits/entries/")
    page.evaluate("dispatchEvent(new Event('online'))")
    sheet.sent()
    assert sorted(Reading.objects.values_list("quantity", flat=True)) == ["dry_bulb", "rh"]
    assert Observation.objects.count() == 1
    order = list(Reading.objects.order_by("sequence").values_list("quantity", flat=True))
    assert order == ["dry_bulb", "rh"], "in the order they were taken"


def test_signed_out_meanwhile_nothing_is_lost(sheet):
    sheet.own_doing = ("status of 403", "Error Code 403")
    sheet.open()
    cookies = sheet.page.context.cookies()
    sheet.page.context.clear_cookies()
    sheet.type("return_unit.dry_bulb", "76.4")
    expect(sheet.outbox).to_contain_text("1 unsent: sign in again")
    expect(sheet.page.locator(".title-block")).to_be_visible()
    sheet.page.context.add_cookies(cookies)
    sheet.page.reload()
    expect(sheet.field("return_unit.dry_bulb")).to_have_attribute("data-stored", "76.4")
    assert Reading.objects.count() == 1


@pytest.mark.parametrize("sends", ["its own", "the other's too"])
def test_a_second_tab_sees_what_the_first_took_and_a_correction_in_either_counts(sheet, sends):
    sheet.open("read/return_unit")
    if sends == "the other's too":
        sheet.own_doing = ("net::ERR_FAILED",)
        sheet.page.route("**/visits/entries/", lambda route: route.abort())
    second = sheet.page.context.new_page()
    second.goto(sheet.page.url)
    sheet.page.bring_to_front()
    sheet.type("return_unit.dry_bulb", "77.4")
    if sends == "the other's too":
        expect(sheet.outbox).to_contain_text("1 unsent: no connection")
        second.evaluate("dispatchEvent(new Event('online'))")
    there = second.locator('input[data-field="return_unit.dry_bulb"]')
    second.evaluate("location.hash = 'read/return_unit'")
    expect(there).to_have_value("77.4")
    expect(there).to_have_attribute("data-stored", "77.4")  # not only as a draft of the first
    second.bring_to_front()
    there.fill("76.4")
    there.press("Enter")
    expect(sheet.field("return_unit.dry_bulb")).to_have_value("76.4")
    first, correction = Reading.objects.order_by("sequence")
    assert correction.supersedes == first.uuid and correction.typed == "76.4"
