"""Houses, nameplates, tables, rooms and instruments as they are typed. Messages name the cause and the likely fix."""

from datetime import date

from django import forms

from web.accounts.models import CLIMATES
from web.houses import bridge
from web.houses.models import (
    BLOWER_MOTORS,
    CHANGED,
    CORRECTED,
    INDOOR_PLACES,
    INSTRUMENT_KINDS,
    KINDS,
    LOOP_FLUIDS,
    LOOPS,
    METERING_DEVICES,
    REFRIGERANTS,
    STAGES,
    UNITS,
    House,
    Instrument,
    System,
)
from web.shell.fields import Number
from web.shell.once import NumberedForm

LONGEST_TABLE = 8000
MOST_ROOMS = 24
WHY = {
    CORRECTED: "It was read wrongly",
    CHANGED: "The machine was changed",
}
DUCTS = {"flex": "Flex", "metal": "Metal"}


def _choice(label: str, choices: dict, required: bool = True, hint: str = "") -> forms.ChoiceField:
    return forms.ChoiceField(choices=list(choices.items()), label=label, required=required, help_text=hint)


class HouseForm(NumberedForm, forms.ModelForm):
    """A house: its address is its name."""

    altitude_ft = Number(
        "Altitude", -300, 12000, "ft", required=True, hint="Decides air pressure; 1,000 ft off is 4 % of capacity."
    )
    climate = _choice("Climate", CLIMATES, required=False)

    class Meta:
        model = House
        fields = ("name", "customer", "altitude_ft", "climate", "weather_place", "access_note")
        labels = {
            "name": "Street and number",
            "customer": "Customer",
            "access_note": "How to get in",
            "weather_place": "Weather is asked for",
        }
        help_texts = {
            "weather_place": "The place the weather service knows; its figure is taken until the air outdoors is read."
        }
        error_messages = {"name": {"required": "A house needs an address to be found by."}}


# The plate's fields in the order of the page: title, names, and the only kind that has them ('' for all). What
# decides most comes first; the rest is folded until it is wanted.
PLATE_FIRST = (
    ("What decides most", ("name", "kind", "capacity_btuh", "nominal_tons", "refrigerant", "metering_device", "stages",
                           "seer", "unit", "indoor_place"), ""),
    ("Ground loop", ("loop", "design_gpm", "loop_fluid", "loop_share_pct"), "ground_source"),
)  # fmt: skip
PLATE_REST = (
    ("Outdoor plate", ("model", "line", "serial", "year", "factory_charge_oz", "target_subcooling_f", "compressor_rla",
                       "outdoor_fan_fla"), ""),
    ("Indoor plate", ("indoor_model", "indoor_serial", "blower_motor", "tap", "rating_static_inwc",
                      "line_length_ft"), ""),
    ("Heating", ("heating_btuh_47", "heating_btuh_17"), "heat_pump"),
)  # fmt: skip


class SystemForm(NumberedForm, forms.ModelForm):
    """Both nameplates. Tons may come from the rated capacity."""

    capacity_btuh = Number("Rated capacity", 9000, 120000, "BTU/h", hint="12,000 BTU/h is a ton; fills in the tons.")
    nominal_tons = Number("Nominal size", 0.75, 10, "tons")
    kind = _choice("Kind", KINDS)
    refrigerant = _choice("Refrigerant", {"": "Not known", **{name: name for name in REFRIGERANTS}}, required=False)
    metering_device = _choice("Metering device", METERING_DEVICES)
    blower_motor = _choice("Blower motor", BLOWER_MOTORS)
    stages = _choice(
        "Compressor", STAGES, required=False, hint="With two stages or a variable speed: judged at full capacity only."
    )
    unit = _choice("Indoor unit", UNITS, hint="Says what is external to the static.")
    indoor_place = _choice("Stands in", INDOOR_PLACES, required=False)
    year = forms.IntegerField(
        required=False,
        min_value=1950,
        max_value=date.max.year,
        label="Year made",
        error_messages={"invalid": "A year, such as 2014."},
    )
    seer = Number(
        "Efficiency (SEER)", 6, 30, "",
        hint="Gives the class, and with it the expected approach. Ground source: the EER.",
    )  # fmt: skip
    factory_charge_oz = Number("Factory charge", 10, 640, "oz", hint="As on the plate: without the line set.")
    target_subcooling_f = Number("Target subcooling", 2, 25, "°F")
    compressor_rla = Number("Compressor rated-load amps", 2, 60, "A")
    outdoor_fan_fla = Number("Outdoor fan full-load amps", 0.2, 10, "A")
    rating_static_inwc = Number("Maximum external static", 0.1, 1.2, "in. w.c.")
    line_length_ft = Number("Line length", 3, 250, "ft")
    heating_btuh_47 = Number("Rated heating at 47 °F", 6000, 120000, "BTU/h", hint="On the maker's sheet.")
    heating_btuh_17 = Number("Rated heating at 17 °F", 4000, 100000, "BTU/h")
    loop = _choice("Water from", LOOPS, required=False, hint="A well runs at about half a closed loop's flow.")
    design_gpm = Number("Design water flow", 1, 40, "GPM")
    loop_fluid = _choice("Loop fluid", LOOP_FLUIDS, required=False)
    loop_share_pct = Number("Antifreeze share", 0, 60, "%")
    why = forms.ChoiceField(
        choices=list(WHY.items()),
        required=False,
        label="Why it changes",
        initial=CORRECTED,
        help_text="Read wrongly: earlier readings are judged by the right plate too. "
        "Changed: they keep the plate they were read with. "
        "A changed blower tap is entered on the visit's sheet.",
    )

    class Meta:
        model = System
        fields = tuple(name for _, names, _ in (*PLATE_FIRST, *PLATE_REST) for name in names)
        labels = {
            "name": "Which system",
            "model": "Outdoor model",
            "line": "Maker's line",
            "serial": "Outdoor serial",
            "indoor_model": "Indoor model",
            "indoor_serial": "Indoor serial",
            "tap": "Blower tap in use",
        }
        help_texts = {
            "name": "Such as upstairs, or main.",
            "line": "As the shop calls the models that differ by size only. They are learnt together.",
            "tap": "Named as in the blower table.",
        }

    @property
    def first_groups(self):
        """The fields that decide most, in the order of the page."""
        return [(title, [self[name] for name in names], only) for title, names, only in PLATE_FIRST]

    @property
    def other_groups(self):
        """The rest of the plates."""
        return [(title, [self[name] for name in names], only) for title, names, only in PLATE_REST]

    @property
    def rest_is_wanted(self):
        """Whether the rest is open: something of it is entered, or wrong."""
        names = [name for _, names, _ in PLATE_REST for name in names]
        defaults = {name: System._meta.get_field(name).get_default() for name in names}
        given = any(self[name].value() not in ("", None, defaults[name]) for name in names)
        return given or any(name in self.errors for name in names)

    def clean_year(self):
        year = self.cleaned_data["year"]
        if year and year > date.today().year + 1:
            raise forms.ValidationError("That year has not come yet.")
        return year

    def clean(self):
        super().clean()
        found = self.cleaned_data
        capacity, tons = found.get("capacity_btuh"), found.get("nominal_tons")
        if tons is None and capacity:
            found["nominal_tons"] = bridge.tons_of(capacity)
        elif tons is None and not self.errors.get("nominal_tons") and not self.errors.get("capacity_btuh"):
            self.add_error("nominal_tons", "Tons or the rated capacity: one of them is needed.")
        elif tons and capacity and abs(bridge.tons_of(capacity) - tons) > 0.5:
            self.add_error(
                "nominal_tons",
                f"{capacity:,.0f} BTU/h is {bridge.tons_of(capacity):g} tons, not {tons:g}. Which is on the plate?",
            )
        return found


class TableForm(forms.Form):
    """A table as typed, or pasted from a spreadsheet or a CSV file."""

    text = forms.CharField(
        max_length=LONGEST_TABLE,
        label="Table",
        strip=False,
        widget=forms.Textarea(attrs={"rows": "9", "spellcheck": "false"}),
        error_messages={
            "required": "Paste the table first.",
            "max_length": f"At most {LONGEST_TABLE} characters: paste the table alone.",
        },
    )
    source = forms.CharField(
        max_length=120,
        required=False,
        label="Where it comes from",
        help_text="Such as the maker's submittal and its date.",
    )


class RoomForm(forms.Form):
    """One room's supply duct; an empty row is left out."""

    name = forms.CharField(max_length=40, required=False, label="Room")
    diameter_in = Number("Duct diameter", 3, 20, "in.")
    duct = _choice("Duct", DUCTS)
    wants_cfm = Number("Wants", 10, 800, "CFM")

    def clean(self):
        super().clean()
        found = self.cleaned_data
        if found.get("name") and found.get("diameter_in") is None and not self.errors.get("diameter_in"):
            self.add_error("diameter_in", "A room needs its duct's diameter.")
        if not found.get("name") and found.get("diameter_in"):
            self.add_error("name", "Name the room.")
        return found


class _EveryRoomOnce(forms.BaseFormSet):
    def clean(self):
        if not self.forms:  # the page always sends rows, empty ones too: none would take every room away
            raise forms.ValidationError("The rows did not arrive. Enter them again.")
        names = [
            form.cleaned_data["name"].lower() for form in self.forms if getattr(form, "cleaned_data", {}).get("name")
        ]
        if len(names) != len(set(names)):
            raise forms.ValidationError("Two rooms have the same name. Tell them apart.")


def rooms_in(rows: forms.BaseFormSet) -> list[dict]:
    """The rows that name a room."""
    return [form.cleaned_data for form in rows.forms if form.cleaned_data.get("name")]


RoomForms = forms.formset_factory(
    RoomForm, formset=_EveryRoomOnce, extra=3, max_num=MOST_ROOMS, absolute_max=MOST_ROOMS + 1, validate_max=True
)


class InstrumentForm(forms.ModelForm):
    """An instrument: accuracies are 95 %; those that do not apply stay empty."""

    kind = _choice("Kind", INSTRUMENT_KINDS)
    dry_bulb_accuracy_f = Number("Dry bulb within", 0.1, 6, "°F", hint="Empty: the usual 0.9 °F.")
    rh_accuracy_pct = Number("Humidity within", 0.5, 10, "%RH", hint="Empty: the usual 3 %RH.")
    line_accuracy_f = Number("Line temperature within", 0.1, 6, "°F", hint="Empty: the usual for a clamp.")
    lowest_f = Number("Reads from", -60, 200, "°F")
    highest_f = Number("Reads up to", -20, 400, "°F")
    calibration_months = forms.IntegerField(min_value=1, max_value=60, initial=12, label="Calibrate every, months")
    calibrated_on = forms.DateField(
        required=False,
        label="Last calibrated on",
        widget=forms.DateInput(attrs={"type": "date"}, format="%Y-%m-%d"),
        error_messages={"invalid": "A day, such as 2026-03-01."},
    )

    class Meta:
        model = Instrument
        fields = (
            "label",
            "kind",
            "dry_bulb_accuracy_f",
            "rh_accuracy_pct",
            "line_accuracy_f",
            "lowest_f",
            "highest_f",
            "calibrated_on",
            "calibration_months",
            "retired",
        )
        labels = {"label": "Called", "retired": "No longer used"}
        error_messages = {"label": {"required": "Call it something the van knows it by."}}

    def clean(self):
        super().clean()
        found = self.cleaned_data
        low, high = found.get("lowest_f"), found.get("highest_f")
        if (low is None) != (high is None):
            self.add_error("highest_f" if high is None else "lowest_f", "Both ends of its range, or neither.")
        elif low is not None and low >= high:
            self.add_error("highest_f", "Its range is upside down.")
        if found.get("calibrated_on") and found["calibrated_on"] > date.today():
            self.add_error("calibrated_on", "That day has not come yet.")
        return found
