"""Gauges on a phone: connected with a reason, pressures worked out, a step that survives a reload and no network."""

from playwright.sync_api import expect

from tests.web.test_gauges import psig
from web.visits.models import ChargeStep, HookUp


def test_gauges_are_connected_and_a_step_is_kept_on_a_phone(sheet, serious_faults):
    page, system = sheet.page, sheet.shop.system
    system.target_subcooling_f, system.factory_charge_oz, system.seer = 10.0, 100.0, 14
    system.save()
    page.set_viewport_size({"width": 390, "height": 844})
    sheet.own_doing = ("ERR_INTERNET_DISCONNECTED", "htmx:")
    sheet.open("judge")
    expect(page.locator("[data-station-to=gauges]")).to_have_count(0)
    page.get_by_text("Gauges are connected anyway").click()
    page.locator("#open-why").fill("The maker asks for pressures")
    page.get_by_role("button", name="Open the gauges station").click()
    page.locator("[data-station-to=gauges]").click()
    sheet.sent()
    sheet.still()
    page.locator("input[name='port.low']").check()
    expect(page.locator("#hook-why")).to_have_count(0)  # the reason was given when the station was opened
    page.get_by_role("button", name="Gauges are connected").click()
    expect(page.get_by_role("button", name="Gauges are off")).to_be_visible()
    for name, value in (("gauge_suction", psig(42.0, "dew")), ("gauge_liquid", psig(110.0, "bubble"))):
        sheet.field(f"{name}.pressure").fill(value)
        sheet.field(f"{name}.pressure").press("Tab")
    expect(page.locator("#gauge-figures")).to_contain_text("42.0")
    sheet.sent()
    sheet.still()
    assert page.evaluate("document.documentElement.scrollWidth") == 390 and serious_faults(page) == []

    page.get_by_text("Step 1: what went in or out").click()
    page.locator("input[name=way][value=recover]").check()
    page.locator("#scale-before").fill("20 oz")
    page.locator("#scale-after").fill("19 oz")
    page.get_by_role("button", name="Keep this step").click()
    expect(page.locator("[data-form-said=charge-step]")).to_contain_text("did not get heavier")
    page.reload()
    expect(page.locator("#scale-after")).to_have_value("19 oz")
    expect(page.locator("input[name=way][value=recover]")).to_be_checked()
    page.locator("#scale-after").fill("24 oz")
    page.context.set_offline(True)
    page.get_by_role("button", name="Keep this step").click()
    expect(page.locator("[data-form-said=charge-step]")).to_have_text("On this device, not sent yet.")
    page.context.set_offline(False)
    expect(page.get_by_text("4 oz recovered")).to_be_visible()
    assert ChargeStep.objects.get().oz == 4.0 and HookUp.objects.filter(did="on").count() == 1
