"""The judgement in the browser: it follows what is typed, stands on paper, and answers in sight on a phone."""

from playwright.sync_api import expect

MATTED = {"liquid_line_outdoor.temperature": "118", "suction_line_indoor.temperature": "52"}


def sound_walk(sheet):
    sheet.open("settle")
    sheet.type("system.running_time", "20")
    sheet.choose("strip_heat", "off")
    sheet.name_probe()
    for name, value in {
        "return_unit.dry_bulb": "76.4",
        "return_unit.rh": "52",
        "supply_plenum.dry_bulb": "55.8",
        "supply_plenum.rh": "91",
        "outdoor.dry_bulb": "90.8",
    }.items():
        sheet.type(name, value)


def test_the_judgement_follows_what_is_typed_and_the_whole_of_it_goes_on_paper(sheet, serious_faults):
    page = sheet.page
    sheet.shop.system.seer = 14.0
    sheet.shop.system.save()
    sound_walk(sheet)
    sheet.go_to("blower")
    sheet.page.get_by_role("button", name="Guess 1200").click()
    for name, value in MATTED.items():
        sheet.type(name, value)
    sheet.choose("condenser_coil", "matted")
    expect(sheet.headline).to_have_text("The condenser is matted.")
    expect(page.locator(".pin .gauges")).to_contain_text("Gauges: off.")
    sheet.go("judge")
    evidence = page.locator(".evidence article").first
    expect(evidence).to_contain_text("Condenser dirty")
    expect(evidence.locator("li", has_text="Condenser coil: matted.")).to_contain_text("For")
    assert serious_faults(page) == []
    page.get_by_text("Tests that settle a suspicion").click()
    sheet.choose("probes_together", "differ")
    expect(page.locator(".evidence article").first).to_be_visible()
    sheet.go("arrive")
    page.emulate_media(media="print")
    for shown in (
        "#decision",
        ".pin .gauges",
        ".next-step",
        ".causes",
        ".evidence",
        "#drawing svg",
        ".title-block",
        ".not-seen",
    ):
        expect(page.locator(shown).first).to_be_visible()
    expect(page.locator(".stations")).to_be_hidden()
    page.emulate_media(media="screen")


def test_the_next_step_leads_to_its_place(sheet):
    page = sheet.page
    sound_walk(sheet)
    sheet.sent()
    with page.expect_response(lambda answer: "/preview/" in answer.url):
        sheet.go("judge")
    sheet.still()  # the last answer may put another step first
    stop = page.locator(".steps a[href^='#read/']").first.get_attribute("href").removeprefix("#read/")
    page.locator(f".steps a[href='#read/{stop}']").click()
    expect(page.locator(f"#stop-{stop}")).to_be_visible()
    expect(page.locator("[data-station-to=read]")).to_have_attribute("aria-current", "step")


def test_a_rule_tried_on_a_phone_answers_in_sight_and_keeps_nothing(sheet):
    page = sheet.page
    page.set_viewport_size({"width": 390, "height": 844})
    sound_walk(sheet)
    sheet.sent()
    page.goto(f"{sheet.address}/house-rules/")
    tried = page.get_by_role("button", name="Try Expected temperature split: Flat band")
    tried.scroll_into_view_if_needed()
    tried.click()
    answer = page.locator("#what-if")
    expect(answer.get_by_role("heading", name="What it would change")).to_be_in_viewport(ratio=1)
    expect(answer).to_contain_text("In past verdicts")
    assert page.evaluate("document.documentElement.scrollWidth") == 390
    page.reload()
    expect(page.locator(".alternative.chosen", has_text="Computed for this air")).to_contain_text("in force")
