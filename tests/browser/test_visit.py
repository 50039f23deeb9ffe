"""The whole visit in a browser: from the door to the re-read; keyboard alone; the drawing; the clock; every main view
for axe.
"""

import re
from datetime import timedelta

from django.utils import timezone
from playwright.sync_api import expect

from tests.browser.test_sheet import FLOW, TYPED, type_visit
from tests.web.conftest import a_picture, make_shop
from web.accounts.rights import LEAD
from web.probes.forms import SampleItem
from web.probes.services import add_gateway, store_samples
from web.visits.models import Action, Observation, Photo, Reading, Remark


def test_a_whole_visit_from_the_door_to_the_re_read(sheet, settings, tmp_path):
    settings.MEDIA_ROOT = tmp_path
    page = sheet.page
    sheet.open("arrive")
    sheet.choose("visit_kind", "service")
    sheet.choose("complaint_where", "whole_house")
    page.get_by_label("What the customer says").fill("Warm after lunch.")
    page.get_by_role("button", name="Keep these words").click()
    sheet.field("system.time_available").fill("120")
    sheet.go("settle")
    page.get_by_role("button", name="It starts now").click()
    expect(page.locator("[data-clock-face]")).to_have_text(re.compile(r"^0:0\d$"))
    expect(page.locator("[data-station-to=settle]")).to_contain_text("15 min")
    sheet.choose("filter", "blocked")
    page.set_input_files(
        'input[data-photo="filter"]', {"name": "f.jpg", "mimeType": "image/jpeg", "buffer": a_picture().read()}
    )
    expect(page.get_by_text("Photo: kept")).to_be_visible()
    type_visit(sheet, **{"supply_plenum.dry_bulb": "51.8", "filter.pressure_drop": "0.31", FLOW: "870"})
    expect(sheet.headline).to_have_text("The filter is blocked.")
    expect(page.locator("#spot-filter")).to_have_attribute(
        "aria-label", re.compile("Filter drop, 0.31 in. w.c., expect 0.05, up to 0.10, out of range")
    )

    sheet.go("fix")
    page.get_by_label("which part, what size").fill("16x25x1, pleated")
    page.get_by_role("button", name="Filter changed").click()
    expect(page.locator(".done-line")).to_contain_text("Filter changed")
    page.get_by_role("button", name="Settle and read again: round 2").click()
    expect(page.locator(".told")).to_contain_text("Round 2")
    expect(page.locator("[data-clock-face]")).to_have_text(re.compile(r"^0:0\d$"))
    expect(page.locator('input[name="see.filter"]:checked')).to_have_count(0)
    sheet.choose("filter", "clean")
    sheet.type("system.running_time", "16")
    sheet.go_to("outdoor")
    page.get_by_role("button", name="Same as before: 90.8").click()
    for name, value in {**TYPED, FLOW: "1200", "system.running_time": "17"}.items():
        sheet.type(name, value)
    expect(sheet.headline).to_have_text("This system does what it should today.")
    sheet.go("fix")
    expect(page.locator("table.rounds")).to_contain_text("Airflow290 CFM/ton low400 CFM/ton in range")
    sheet.sent()
    assert (
        Remark.objects.get().text == "Warm after lunch."
        and (Action.objects.get().done, Action.objects.get().text) == ("filter_changed", "16x25x1, pleated")
        and Photo.objects.count() == 1
    )
    assert Reading.objects.filter(round__number=2, place="outdoor").count() == 1, (
        "repeated, then typed the same: one reading"
    )


def test_a_visit_is_finished_and_opened_again_on_a_phone(sheet):
    """What was left open is asked for, what was typed stays; the outbox is told that a finished visit takes no more."""
    page = sheet.page
    page.set_viewport_size({"width": 390, "height": 844})
    sheet.open("close")
    looks = page.locator("[data-at=close] .last-looks input")
    for look in looks.all()[1:]:
        look.check()
    page.get_by_label("For the customer").fill("All is well.")
    page.get_by_role("button", name="Finish the visit").click()
    expect(page.locator("[data-form-said=finish]")).to_contain_text("Still to see to, or to say why not: panels on")
    page.reload()
    expect(page.get_by_label("For the customer")).to_have_value("All is well.")
    sheet.sent()
    sheet.still()  # the verdict on top grows with its answer, and all below it moves
    for look in looks.all():
        look.check()
    sheet.own_doing = ("ERR_INTERNET_DISCONNECTED", "htmx:")
    page.context.set_offline(True)
    page.get_by_role("button", name="Finish the visit").click()
    expect(page.locator("[data-form-said=finish]")).to_have_text("On this device, not sent yet.")
    page.context.set_offline(False)
    expect(page.get_by_text("This visit is finished.")).to_be_visible()
    expect(page.locator("[data-station-to=close]")).to_contain_text("finished")
    sheet.type("outdoor.dry_bulb", "90.8")
    expect(sheet.outbox).to_contain_text("not taken")
    sheet.go("close")
    page.get_by_label("Why", exact=True).fill("One more reading")
    page.get_by_role("button", name="Open it again").click()
    expect(page.get_by_role("button", name="Finish the visit")).to_be_visible()


def test_a_round_is_sealed_as_the_baseline_and_its_verdict_was_right(sheet):
    """What hinders follows what is entered; the form is there once nothing does."""
    page = sheet.page
    sheet.open()
    type_visit(sheet, **{FLOW: "1200"})
    sheet.go("close")
    sheet.still()
    hinders, seal = page.locator("#baseline-part"), page.get_by_role("button", name="Seal it as the baseline")
    expect(hinders).to_contain_text("No static pressures.")
    expect(seal).to_be_hidden()
    sheet.choose("panels", "on")
    sheet.choose("condenser_coil", "dry")
    sheet.type("return_plenum.static_pressure", "-0.20")
    sheet.type("supply_plenum.static_pressure", "0.22")
    sheet.go("close")
    expect(hinders).to_contain_text("This round can be the baseline for cooling.")
    page.get_by_label("Why this round").fill("All in range")
    seal.click()
    expect(page.get_by_text("This round is the baseline for cooling: sealed by Ana T.")).to_be_visible()
    page.get_by_text("It is known", exact=True).click()
    page.get_by_role("button", name="It was right").click()
    expect(page.locator("[data-form-said=outcome]")).to_contain_text("Say how that was seen.")
    page.get_by_label("How it was seen").select_option("gauges")
    page.get_by_role("button", name="It was right").click()
    expect(page.get_by_text("was right. By gauges.")).to_be_visible()


def test_the_drawing_leads_to_its_places_and_next_walks_past_the_quiet_ones(sheet):
    page = sheet.page
    sheet.open("read")
    page.locator("#drawing [data-go=liquid_line_outdoor]").click()
    expect(page.locator(".stop:visible h2")).to_contain_text("Liquid line outdoors")
    expect(page.locator("#spot-liquid_line_outdoor")).to_have_class(re.compile("current"))
    expect(page.locator(".stop:visible")).to_contain_text("On the thin line as it leaves the condenser")
    sheet.go_to("return_unit")
    expect(page.locator(".next:visible")).to_have_text("Next: supply plenum")
    page.locator(".next:visible").click()
    page.locator(".next:visible").click()
    expect(page.locator(".stop:visible h2")).to_contain_text("Statics")  # the register is quiet: no question needs it
    sheet.choose("complaint_where", "some_rooms")
    sheet.go_to("supply_plenum")
    expect(page.locator(".next:visible")).to_have_text("Next: near register")
    sheet.type("outdoor.dry_bulb", "88")
    sheet.go_to("liquid_line_outdoor")
    expect(page.locator("#marks-liquid_line_outdoor")).to_contain_text("expect")
    sheet.go_to("supply_plenum")
    page.locator("#stop-supply_plenum").get_by_role("button", name="All understood").click()
    expect(page.locator("#stop-supply_plenum").get_by_role("button", name="All understood")).to_be_hidden()
    sheet.sent()
    assert {o.seen for o in Observation.objects.filter(degree="read")} == {"caution:drilling", "caution:attic"}


def test_keyboard_alone_takes_a_visit_and_undoes(sheet):
    page, keys = sheet.page, sheet.page.keyboard
    sheet.open("arrive")
    keys.press("?")
    expect(page.get_by_role("dialog")).to_contain_text("Undo the last entry")
    keys.press("Escape")
    keys.press("2")
    page.locator('input[name="see.strip_heat"]').first.focus()
    keys.press("Space")
    expect(page.locator('input[name="see.strip_heat"][value=off]')).to_be_checked()
    sheet.field("system.running_time").focus()
    keys.type("20")
    keys.press("Escape")
    keys.press("3")
    walk = {"Outdoor, shade": ("90.8", ""), "Return at the unit": ("76.4", "52"), "Supply plenum": ("55.8", "91")}
    for name, values in walk.items():
        expect(page.locator(".stop:visible h2")).to_contain_text(name)
        for value in values:
            keys.type(value)
            sheet.still()  # where *next* leads depends on what the readings so far ask for
            keys.press("Enter")
    expect(page.locator(".stop:visible h2")).to_contain_text("Statics")
    keys.press("Escape")
    for _ in range(3):
        keys.press("n")
        keys.press("Escape")
    expect(page.locator(".stop:visible h2")).to_contain_text("Blower and airflow")
    sheet.field(FLOW).focus()
    keys.type("1200")
    keys.press("Escape")
    keys.press("5")
    expect(sheet.mark("Temperature split")).to_contain_text("20.6")
    expect(sheet.mark("Airflow")).to_contain_text("400")
    keys.press("Alt+z")
    expect(sheet.mark("Airflow")).to_have_count(0)
    sheet.sent()
    assert Reading.objects.filter(place="blower").count() == 2, "taken, and undone"
    keys.press("d")
    keys.press("Enter")
    expect(page.locator(".stop:visible h2")).to_contain_text("Outdoor, shade")
    keys.press("Escape")
    keys.press("7")
    expect(page.get_by_role("heading", name="Close", exact=True)).to_be_visible()


def test_the_grille_is_as_at_the_unit_by_one_tap(sheet):
    sheet.open("read/return_grille")
    same = sheet.page.get_by_role("button", name="As at the unit")
    same.click()
    expect(sheet.page.locator("#said")).to_have_text("Nothing is read at the unit yet.")
    sheet.type("return_unit.dry_bulb", "76.4")
    sheet.page.locator('select[name="return_unit.humidity"]').select_option("wet_bulb")
    sheet.type("return_unit.wet_bulb", "64")
    sheet.go_to("return_grille")
    same.click()
    expect(sheet.field("return_grille.wet_bulb")).to_have_value("64")
    sheet.sent()
    at_grille = Reading.objects.filter(place="return_grille").values_list("quantity", "value")
    assert set(at_grille) == {("dry_bulb", 76.4), ("wet_bulb", 64.0)}


def test_a_press_is_not_lost_while_results_arrive_under_it(sheet):
    """Leaving a field by pressing something brings new results within the time a finger needs to let go."""
    page = sheet.page
    sheet.open("read/return_unit")
    sheet.field("return_unit.dry_bulb").fill("76.4")
    expect(page.locator("#spot-return_unit")).to_have_attribute(
        "aria-label", re.compile("76.4")
    )  # no drawing is on its way now
    box = page.locator("#spot-filter").bounding_box()
    page.mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    page.evaluate("document.addEventListener('htmx:beforeSwap', () => { document.body.dataset.answered = 'yes' })")
    page.mouse.down()
    expect(page.locator("body")).to_have_attribute("data-answered", "yes")
    page.mouse.up()
    expect(page.locator(".stop:visible h2")).to_contain_text("Filter drop")
    expect(page.locator("#spot-return_unit")).to_have_attribute("aria-label", re.compile("76.4"))


def test_a_probe_is_held_to_a_place_watched_and_its_value_taken(sheet, shop):
    gateway, _ = add_gateway(shop.person, "Van 1")
    now = timezone.now()

    def hears(value, sequence, at):
        store_samples(
            gateway,
            [
                SampleItem("air-1", "dry_bulb", sequence, value, "degF", at),
                SampleItem("air-1", "rh", sequence, 52.0, "pct", at),
            ],
            timezone.now(),
        )

    for second in range(20):
        hears(76.4, second, now - timedelta(seconds=20 - second))
    sheet.open("read/return_unit")
    live = sheet.page.locator("#stop-return_unit .live")
    sheet.pick(live.locator("select"), label="air-1")
    expect(live.locator("[data-live-says]")).to_contain_text("76.4 °F · 52 % · just begun")
    hears(76.8, 21, timezone.now())
    expect(live.locator("[data-live-says]")).to_contain_text("76.8 °F")
    live.get_by_role("button", name="Hold").click()
    expect(sheet.field("return_unit.dry_bulb")).to_have_value("76.8")
    expect(sheet.field("return_unit.rh")).to_have_value("52")
    sheet.sent()
    assert sorted(Reading.objects.values_list("quantity", "source")) == [("dry_bulb", "probe"), ("rh", "probe")]
    expect(sheet.note("return_unit.dry_bulb")).not_to_contain_text("did not show")


def test_undo_goes_back_to_the_value_before_and_to_the_sight_before(sheet):
    page = sheet.page
    sheet.open("read/return_unit")
    for value in ("78.4", "76.4"):
        sheet.type("return_unit.dry_bulb", value)
        sheet.sent()
    sheet.choose("filter", "clean")
    sheet.choose("filter", "loaded")
    sheet.go("read")
    undo = page.locator(".stop:visible [data-undo]")
    undo.click()
    expect(page.locator('input[name="see.filter"]:checked')).to_have_value("clean")
    undo.click()
    expect(page.locator('input[name="see.filter"]:checked')).to_have_count(0)
    undo.click()
    expect(sheet.field("return_unit.dry_bulb")).to_have_value("78.4")
    undo.click()
    expect(sheet.field("return_unit.dry_bulb")).to_have_value("")
    sheet.sent()
    assert [r.typed for r in Reading.objects.order_by("sequence")] == ["78.4", "76.4", "78.4", ""]
    assert [o.degree for o in Observation.objects.order_by("sequence")] == ["clean", "loaded", "clean", "withdrawn"]


def test_a_practice_house_lives_on_its_drawing_and_is_held_in_one_press(sheet, serious_faults):
    page = sheet.page
    page.goto(f"{sheet.address}/practice/")
    page.get_by_role("button", name="Begin").click()
    panel = page.get_by_role("form", name="Practice house")
    expect(panel.get_by_label("Machine on")).to_be_checked()
    expect(panel.get_by_role("status")).to_contain_text("Running 20 min.")
    sheet.go_to("return_unit")
    at_supply = page.locator('[data-live-at="supply_plenum|dry_bulb"]')
    expect(at_supply).to_contain_text(re.compile(r"5\d\.\d"))
    page.get_by_role("button", name="Hold all probes").click()
    sheet.sent()
    expect(page.locator("#note-return_unit\\.dry_bulb")).to_contain_text("Held from a probe")
    expect(sheet.headline).to_contain_text("This system does what it should today.")
    panel.get_by_role("button", name="20 minutes on").click()
    expect(panel.get_by_role("status")).to_contain_text("Running 40 min.", timeout=30_000)
    panel.locator("summary").click()
    panel.get_by_label("Filter loaded or blocked").fill("80")
    expect(panel.get_by_role("status")).to_contain_text("Running")
    assert serious_faults(page) == []
    held = list(Reading.objects.exclude(quantity="running_time").values_list("source", "steady"))
    assert {source for source, _ in held} == {"probe"} and held.count(("probe", "settled")) > len(held) / 2


def test_another_shops_visit_is_not_there(sheet, serious_faults, transactional_db):
    sheet.own_doing = ("404",)
    theirs = make_shop("Theirs", "bo")
    sheet.page.goto(f"{sheet.address}/visits/{theirs.visit.public_id}/")
    expect(sheet.page.get_by_role("heading")).to_have_text("There is nothing here.")
    assert serious_faults(sheet.page) == []


def at_station(sheet, station):
    """Go to a station by its address, and wait until it is there with its answer."""
    sheet.page.evaluate("station => location.hash = station", station)
    button = sheet.page.locator(f'[data-station-to="{station.split("/")[0]}"]')
    expect(button).to_have_attribute("aria-current", "step")
    sheet.still()


OF_A_THEME = {"Lamp": (), "Paper": ("color-contrast",)}  # what another theme can change, once all was asked of one


def test_no_serious_accessibility_fault_on_any_main_view_in_either_theme(sheet, serious_faults):
    page, shop = sheet.page, sheet.shop
    shop.person.role = LEAD
    shop.person.save()
    sheet.open()
    type_visit(sheet, **{FLOW: "870"})
    expect(sheet.headline).to_have_text("Low airflow.")
    of_system = [f"/houses/systems/{shop.system.public_id}/{page}" for page in ("", "tables/", "rooms/")]
    pages = [
        "/",
        "/houses/",
        "/houses/new/",
        "/houses/instruments/",
        "/house-rules/",
        "/practice/",
        "/probes/",
        "/preferences/",
        "/shop/",
        "/background/",
        "/judging-again/",
        f"/history/{shop.system.public_id}/",
        f"/houses/{shop.house.public_id}/",
        *of_system,
    ]
    stations = ("arrive", "settle", "read/supply_plenum", "air", "judge", "fix", "close")

    def asked_in_either_theme(where):
        for theme, only in OF_A_THEME.items():
            page.get_by_role("button", name=theme).click()
            expect(page.locator("html")).to_have_attribute("data-theme", theme.lower())
            assert serious_faults(page, only=only) == [], (theme, where)

    for path in pages:
        page.goto(f"{sheet.address}{path}")
        asked_in_either_theme(path)
    sheet.open()
    for station in stations:
        at_station(sheet, station)
        asked_in_either_theme(station)
    page.set_viewport_size({"width": 390, "height": 844})
    for station in ("read/supply_plenum", "judge", "air", "close"):
        at_station(sheet, station)
        assert serious_faults(page) == [], ("phone", station)
    assert page.locator("html").get_attribute("data-theme") == "paper"
