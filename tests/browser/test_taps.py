"""How much five tasks of the day ask of a hand on a phone: taps, keys of the keypad, screens of scrolling.

Each is done as a technician would, and held under a bound; docs/taps.md says what was counted, and what it was before.
A tap is a touch of the page, or *next* on the keypad; a character is one key typed.
"""

import re

import pytest
from playwright.sync_api import expect

from web.houses.weather import Weather

PHONE = {"width": 390, "height": 844}
CHECKED = re.compile("does not count|do not count|Not enough read|could not be worked out")


class Hand:
    """One hand on a phone: counts what it does."""

    def __init__(self, sheet):
        self.sheet, self.page = sheet, sheet.page
        self.page.set_viewport_size(PHONE)
        self.taps = self.characters = 0

    def tap(self, what):
        what.click()
        self.taps += 1

    def type(self, text):
        """Type into the field that has the keypad."""
        self.page.keyboard.type(text)
        self.characters += len(text)

    def next(self):
        """The keypad's own *next*. Where it leads depends on the answer to what was typed."""
        self.sheet.still()
        self.page.keyboard.press("Enter")
        self.taps += 1

    def field(self, name, text):
        """Touch a field that the keypad has not come to, and type."""
        self.tap(self.sheet.field(name))
        self.type(text)

    def read(self, *values):
        """Values into the fields that follow, *next* after each; '' passes a field by."""
        for value in values:
            expect(self.page.locator("input[data-field]:focus")).to_be_visible()
            self.type(value)
            self.next()

    def walk(self, values):
        """Type each value where *next* leads to its field, and pass the other fields by, until all are typed."""
        left = dict(values)
        while left:
            expect(self.page.locator("input[data-field]:focus")).to_be_visible()
            self.type(left.pop(self.page.evaluate("document.activeElement.dataset.field"), ""))
            if left:
                self.next()

    def at(self, stop):
        expect(self.page.locator(f"#stop-{stop}")).to_be_visible()

    def screens(self, station):
        """How many screens a station is high."""
        self.sheet.go(station)
        return self.page.evaluate("document.documentElement.scrollHeight") / PHONE["height"]

    def house(self):
        """The page of the shop's house, where every task begins."""
        self.page.goto(f"{self.sheet.address}/houses/{self.sheet.shop.house.public_id}/")
        return self

    def answered(self):
        """A first honest answer: a headline that says more than what is missing."""
        self.sheet.sent()
        self.sheet.still()
        expect(self.sheet.headline).not_to_have_text(CHECKED)

    def air_at_the_unit(self, dry_bulb, rh, supply):
        """Return dry bulb and humidity, then the supply's dry bulb, *next* by *next*."""
        self.at("return_unit")
        self.field("return_unit.dry_bulb", dry_bulb)
        self.next()
        self.read(rh)
        self.at("supply_plenum")
        self.type(supply)

    def within(self, taps, characters):
        assert self.taps <= taps and self.characters <= characters, (self.taps, self.characters)


@pytest.fixture
def hand(sheet, weather):
    return Hand(sheet).house()


def split_check(hand):
    hand.tap(hand.page.get_by_role("button", name="Check the split"))
    hand.air_at_the_unit("76.4", "52", "55.8")
    expect(hand.page.locator(".split-line")).to_contain_text("Split 20.6", timeout=20_000)
    hand.tap(hand.page.get_by_role("button", name="It has run 15 min or more"))
    hand.answered()


def test_a_split_check_takes_nine_taps_and_twelve_characters_at_most(hand):
    split_check(hand)
    hand.within(9, 12)
    outdoor = hand.sheet.field("outdoor.dry_bulb")
    assert outdoor.input_value(), "the weather service stands in"
    expect(hand.page.locator("[data-station-to=read]")).to_contain_text("open")
    hand.sheet.go_to("outdoor")
    expect(hand.sheet.note("outdoor.dry_bulb")).to_contain_text("By the weather service")


def test_from_the_split_to_the_full_walk_nothing_is_typed_twice(hand):
    split_check(hand)
    hand.taps = hand.characters = 0
    hand.tap(hand.sheet.field("supply_plenum.rh"))
    hand.read("91")
    hand.sheet.go_to("blower")
    hand.field("blower.airflow@flow_device", "1200")
    hand.sheet.go_to("outdoor")
    hand.field("outdoor.dry_bulb", "90.8")
    expect(hand.sheet.field("outdoor.dry_bulb")).to_have_value("90.8")  # in the place of what the service said
    hand.answered()
    hand.sheet.go("judge")
    expect(hand.sheet.mark("Airflow")).to_contain_text("400")
    hand.within(5, 10)


FOLLOW_UP = {
    "return_unit.dry_bulb": "76.4",
    "return_unit.rh": "52",
    "supply_plenum.dry_bulb": "55.8",
    "supply_plenum.rh": "91",
    "return_plenum.static_pressure": "-0.22",
    "supply_plenum.static_pressure": "0.31",
    "filter.pressure_drop": "0.09",
    "coil.pressure_drop": "0.24",
    "blower.airflow@flow_device": "1200",
    "outdoor.dry_bulb": "90.8",
    "liquid_line_outdoor.temperature": "99",
    "suction_line_outdoor.temperature": "55",
}


def test_a_follow_up_walk_goes_from_place_to_place_by_next(hand):
    hand.tap(hand.page.get_by_role("button", name=re.compile("Start a visit")))
    hand.tap(hand.page.get_by_role("button", name="It has run 15 min or more"))
    hand.tap(hand.page.locator("[data-station-to=read]"))
    hand.walk(FOLLOW_UP)
    hand.answered()
    expect(hand.sheet.field("outdoor.dry_bulb")).to_have_value("90.8")  # read outside, where the walk comes to it
    hand.within(23, 41)


def test_today_finds_a_house_in_three_taps_and_four_characters(hand):
    hand.page.goto(hand.sheet.address)
    hand.tap(hand.page.get_by_role("navigation", name="Main").get_by_role("link", name="Houses"))
    hand.page.locator("#find").wait_for()
    hand.page.locator("#find").focus()  # it has the keypad when the page comes up
    hand.type("ours")
    hand.tap(hand.page.get_by_role("link", name=re.compile("Ours house")))
    expect(hand.page.get_by_role("button", name="Check the split")).to_be_visible()
    hand.within(3, 4)


def test_a_first_visit_asks_for_what_decides_most(hand):
    page = hand.page
    hand.tap(page.get_by_role("link", name="Add a system"))
    for label, value in (("Which system", "up"), ("Nominal size, tons", "3"), ("Efficiency (SEER)", "14")):
        hand.tap(page.get_by_label(label))
        page.get_by_label(label).fill("")
        hand.type(value)
    for label, value in (("Refrigerant", "R-410A"), ("Metering device", "txv"), ("Stands in", "closet")):
        page.get_by_label(label).select_option(value)
        hand.taps += 2  # the list, and the choice
    expect(page.get_by_text("The rest of the plates")).to_be_visible()
    hand.tap(page.get_by_role("button", name="Keep"))
    expect(page.get_by_role("heading", name="Up", exact=True)).to_be_visible()
    hand.within(12, 6)


@pytest.mark.parametrize(("station", "most"), [("arrive", 2), ("settle", 2.5), ("air", 4)])
def test_a_station_is_so_many_screens_high(hand, station, most):
    hand.sheet.open(station)
    assert hand.screens(station) <= most


def test_a_ground_source_check_is_read_at_the_water_alone(hand):
    system = hand.sheet.shop.visit.system
    system.kind, system.loop, system.design_gpm = "ground_source", "closed", 9.0
    system.save()
    hand.house()
    hand.tap(hand.page.get_by_role("button", name="Check the split"))
    hand.sheet.go_to("loop")
    hand.taps += 1  # its place on the drawing
    hand.field("water_in.temperature", "62")
    hand.next()
    hand.read("72.4", "", "")
    expect(hand.page.locator("input[data-field]:focus")).to_be_visible()
    hand.sheet.field("water_loop.flow").click()
    hand.taps += 1
    hand.type("9")
    hand.tap(hand.page.get_by_role("button", name="It has run 15 min or more"))
    hand.answered()
    hand.within(9, 12)


def a_cold_day(house, when):
    return Weather("A field", when, outdoor_f=38.0, sea_level_inhg=29.92)


def test_a_heat_pump_in_heating_is_checked_by_its_rise(hand, settings):
    settings.WEATHER_SERVICE = f"{__name__}.a_cold_day"
    system = hand.sheet.shop.visit.system
    system.kind = "heat_pump"
    system.save()
    hand.house()
    hand.tap(hand.page.get_by_role("button", name="Check the split"))
    hand.air_at_the_unit("68.2", "40", "96.5")
    hand.tap(hand.page.get_by_role("button", name="It has run 15 min or more"))
    hand.sheet.sent()
    expect(hand.page.locator(".verdict .kicker").first).to_contain_text("in heating")
    expect(hand.page.locator("#verdict")).to_contain_text("The rise is as expected. Rise 28.3")
    hand.within(9, 12)
