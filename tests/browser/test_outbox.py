"""What the server does not take stays in sight until it is corrected or dropped, and holds up nothing; what is under a
hand survives every swap.
"""

import json
import re

from playwright.sync_api import expect

from tests.web.conftest import a_picture
from web.visits.models import Observation, Photo, Reading, Remark


def refused(sheet):
    """The list behind the corner's words, opened."""
    sheet.outbox.click()
    expect(sheet.page.locator("#outbox")).to_be_visible()
    return sheet.page.locator("[data-refused] li")


def test_what_is_turned_down_stays_in_sight_with_why_and_the_rest_goes_through(sheet):
    page = sheet.page
    sheet.open("arrive")
    half_a_letter = (
        "box => { box.value = 'It rattles ' + String.fromCharCode(0xd83d) }"  # no key types it: a broken keyboard does
    )
    page.locator("#say-remark").evaluate(half_a_letter)
    page.get_by_role("button", name="Keep these words").click()
    sheet.choose("visit_kind", "service")
    expect(sheet.outbox).to_have_text("1 not taken")
    sheet.type("outdoor.dry_bulb", "90.8")
    expect(sheet.note("outdoor.dry_bulb")).not_to_contain_text("was")
    assert page.locator("[data-remarks]").inner_text().strip() == "", "the page does not show it as kept"

    page.goto(f"{sheet.address}/houses/")
    expect(sheet.outbox).to_have_text("1 not taken")
    (row,) = refused(sheet).all()
    expect(row).to_contain_text("It rattles")
    expect(row).to_contain_text("This cannot be read: text holds a broken character.")
    row.get_by_role("button", name="Correct it").click()
    page.wait_for_url("**/visits/**")
    box = page.locator("#say-remark")
    expect(box).to_have_value(re.compile("It rattles"))
    expect(sheet.outbox).to_have_text("All sent")
    box.fill("It rattles")
    page.get_by_role("button", name="Keep these words").click()
    sheet.sent()
    assert Remark.objects.get().text == "It rattles"
    assert Observation.objects.get().degree == "service" and Reading.objects.get().typed == "90.8"


def test_a_reading_turned_down_is_corrected_at_its_field_or_dropped(sheet):
    page = sheet.page
    sheet.open("read/return_unit")
    sheet.type("return_unit.rh", "152")
    expect(sheet.outbox).to_have_text("1 not taken")
    row = refused(sheet)
    expect(row).to_contain_text("Return at the unit")
    expect(row).to_contain_text("152")
    row.get_by_role("button", name="Correct it").click()
    expect(sheet.field("return_unit.rh")).to_be_focused()
    page.keyboard.type("52")
    page.keyboard.press("Tab")
    expect(sheet.outbox).to_have_text("All sent")
    sheet.type("return_unit.dry_bulb", "hot")
    expect(sheet.outbox).to_have_text("1 not taken")
    refused(sheet).get_by_role("button", name="Drop it").click()
    expect(page.locator("[data-none-refused]")).to_be_visible()
    page.locator("#outbox").get_by_role("button", name="Close").click()
    expect(sheet.outbox).to_have_text("All sent")
    assert [row.typed for row in Reading.objects.all()] == ["52"]


def test_one_entry_that_the_server_fails_on_keeps_no_other_waiting(sheet):
    page = sheet.page
    sheet.own_doing = ("status of 500", "Error Code 500")
    sheet.open("read/return_unit")

    def fail_on_the_first(route):
        items = json.loads(route.request.post_data)["items"]
        bad = any(item.get("value") == "76.4" for item in items)
        route.fulfill(status=500, body="{}") if bad else route.continue_()

    page.route("**/visits/entries/", fail_on_the_first)
    sheet.type("return_unit.dry_bulb", "76.4")
    sheet.type("return_unit.rh", "52")
    sheet.type("outdoor.dry_bulb", "90.8")
    expect(sheet.outbox).to_have_text("1 unsent: server trouble")
    assert {row.typed for row in Reading.objects.all()} == {"52", "90.8"}
    page.unroute("**/visits/entries/")
    page.evaluate("dispatchEvent(new Event('online'))")
    sheet.sent()
    assert Reading.objects.count() == 3


def test_a_picture_waits_for_the_network_and_one_that_is_none_is_turned_down(sheet, settings, tmp_path):
    settings.MEDIA_ROOT = tmp_path
    page = sheet.page
    sheet.own_doing = ("ERR_FAILED", "status of 400", "Error Code 400")
    sheet.open("settle")
    page.route("**/photos/", lambda route: route.abort())
    page.set_input_files(
        'input[data-photo="filter"]', {"name": "f.jpg", "mimeType": "image/jpeg", "buffer": a_picture().read()}
    )
    expect(sheet.outbox).to_have_text("1 unsent: no connection")
    page.reload()
    expect(page.get_by_text("Photo: on this device, not sent yet")).to_be_visible()
    page.unroute("**/photos/")
    page.evaluate("dispatchEvent(new Event('online'))")
    expect(page.get_by_text("Photo: kept")).to_be_visible()
    page.set_input_files(
        'input[data-photo="filter"]', {"name": "f.jpg", "mimeType": "image/jpeg", "buffer": b"no picture"}
    )
    expect(sheet.outbox).to_have_text("1 not taken")
    expect(page.locator(".photo-trouble")).to_contain_text("no picture that can be read")
    row = refused(sheet)
    expect(row.get_by_text("Save the picture")).to_have_attribute("download", "f.jpg")  # it may be nowhere else
    row.get_by_role("button", name="Send it again").click()
    expect(sheet.outbox).to_have_text("1 not taken")
    expect(row).to_have_count(1)
    row.get_by_role("button", name="Drop it").click()
    page.locator("#outbox").get_by_role("button", name="Close").click()
    expect(sheet.outbox).to_have_text("All sent")
    assert Photo.objects.count() == 1


def test_a_choice_made_while_an_older_answer_is_on_its_way_stays_chosen(sheet):
    page = sheet.page
    sheet.open("settle")
    sheet.choose("filter", "clean")
    sheet.sent()
    older = page.request.get(page.url.split("#")[0] + "1/current/")
    held = []
    page.route("**/current/", lambda route: held.append(route))
    with page.expect_request("**/current/"):
        page.evaluate("document.dispatchEvent(new Event('visibilitychange', {bubbles: true}))")
    sheet.choose("filter", "blocked")
    sheet.type("system.running_time", "20")
    sheet.sent()
    with page.expect_response("**/preview/"):
        held[0].fulfill(response=older)
    sheet.sent()
    expect(page.locator('input[name="see.filter"][value=blocked]')).to_be_checked()
    expect(sheet.field("system.running_time")).to_have_value("20")
    assert page.locator('fieldset[data-sight="filter"]').get_attribute("data-entry") == str(
        Observation.objects.last().uuid
    )


def test_what_is_stored_while_the_next_page_is_written_is_on_it(sheet):
    """A reload overtakes what is being sent: the page is written without it, and the old one still hears the answer."""
    page, sending = sheet.page, []
    sheet.open("read/return_unit")
    sheet.type("return_unit.dry_bulb", "76.4")
    sheet.sent()
    other = page.context.new_page()
    other.goto(sheet.address)
    heard = other.locator(".outbox")  # of both tabs; the one on its way out cannot be asked

    def written_before_it_is_stored(route):
        page.unroute("**/visits/entries/")
        written = route.fetch()
        sending[0].fulfill(response=sending[0].fetch())
        expect(heard).to_have_text("All sent")
        route.fulfill(response=written)

    page.route("**/visits/entries/", lambda route: sending.append(route))
    page.route(f"**/visits/{sheet.shop.visit.public_id}/", written_before_it_is_stored)
    with page.expect_request("**/visits/entries/"):
        sheet.type("return_unit.dry_bulb", "77.1")
    expect(heard).to_contain_text("unsent")
    page.reload()
    other.close()
    assert [reading.value for reading in Reading.objects.order_by("pk")] == [76.4, 77.1]
    expect(sheet.field("return_unit.dry_bulb")).to_have_value("77.1")


def test_what_is_open_focused_scrolled_or_half_typed_survives_a_swap(sheet):
    page = sheet.page
    sheet.open("fix")
    page.get_by_text("Other work").click()
    button = page.get_by_role("button", name="Filter changed")
    button.focus()
    page.evaluate("scrollTo(0, 120)")
    page.locator("#say-done").evaluate("box => { box.value = 'half ty' }")
    before = page.evaluate("scrollY")
    for _ in range(2):
        with page.expect_response("**/preview/"):
            page.evaluate("htmx.trigger('form.work', 'preview')")
        sheet.still()
    expect(button).to_be_focused()
    expect(button).to_be_visible()
    assert page.evaluate("scrollY") == before and page.locator("#say-done").input_value() == "half ty"


def test_a_new_systems_plate_picture_waits_on_this_device_until_the_system_is_kept(sheet):
    page = sheet.page
    sheet.own_doing = ("404",)  # asked for before the system is there
    page.goto(f"{sheet.address}/houses/{sheet.shop.house.public_id}/systems/new/")
    picture = {"name": "plate.jpg", "mimeType": "image/jpeg", "buffer": a_picture(size=(640, 400)).read()}
    page.set_input_files("[data-plate-file]", picture)
    expect(page.get_by_text("Kept with the system when you press Keep.")).to_be_visible()
    expect(page.get_by_role("img", name="The picture of the plate")).to_be_visible()
    page.get_by_label("Which system").fill("up")
    page.get_by_label("Nominal size, tons").fill("30")
    page.get_by_role("button", name="Keep").click()
    expect(page.locator("[aria-invalid=true]")).to_have_attribute("name", "nominal_tons")
    expect(sheet.outbox).to_contain_text("unsent")
    page.get_by_label("Nominal size, tons").fill("3")
    page.get_by_role("button", name="Keep").click()
    expect(page.get_by_role("heading", name="Up", exact=True)).to_be_visible()
    expect(sheet.outbox).to_have_text("All sent")
    expect(page.get_by_text("Visits and pictures …")).to_have_count(0)  # the page has all that it asks for
    expect(page.get_by_role("link", name="Over the years")).to_have_count(2)
    assert Photo.objects.get().system.name == "up"
