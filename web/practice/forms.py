"""Choosing a machine to practise on, and turning what can be turned."""

from django import forms

from web.houses.models import BLOWER_MOTORS, KINDS, METERING_DEVICES, UNITS
from web.practice import bridge

CLASSES = {"old": "Old", "low": "SEER 10 to 13", "mid": "SEER 13 to 16", "high": "SEER 16 and up"}
MODES = {"cooling": "Cooling", "heating": "Heating"}
# what is turned -> lowest, highest
LIMITS = {"outside_f": (0.0, 118.0), "outside_rh": (10.0, 95.0), "load": (0.0, 4.0), "hunting": (0.0, 1.0)}


def _choice(label: str, known, names: dict) -> forms.ChoiceField:
    return forms.ChoiceField(label=label, choices=[(key, names.get(key, key)) for key in known])


class MachineForm(forms.Form):
    """A machine to simulate."""

    kind = _choice("Kind", bridge.KINDS, KINDS)
    tons = forms.TypedChoiceField(
        label="Nominal tons", choices=[(f"{t:g}", f"{t:g}") for t in bridge.TONS], coerce=float, initial="3"
    )
    efficiency = _choice("Class", bridge.CLASSES, CLASSES)
    refrigerant = _choice("Refrigerant", bridge.REFRIGERANTS, {})
    metering_device = _choice("Metering device", bridge.METERING_DEVICES, METERING_DEVICES)
    blower_motor = _choice("Blower motor", bridge.BLOWER_MOTORS, BLOWER_MOTORS)
    unit = _choice("Indoor unit", bridge.UNITS, UNITS)
    mode = _choice("Mode", MODES, MODES)

    def __init__(self, *args, **kwargs):
        super().__init__(*args, **kwargs)
        self.fields["efficiency"].initial, self.fields["refrigerant"].initial = "mid", "R-410A"

    def clean(self):
        """An air conditioner does not heat."""
        super().clean()
        chosen = self.cleaned_data
        if chosen.get("mode") == "heating" and chosen.get("kind") == "air_conditioner":
            self.add_error("mode", "An air conditioner does not heat. Choose a heat pump or ground source, or cooling.")
        return chosen

    def spec(self) -> bridge.Spec:
        """The machine chosen."""
        chosen = {name: value for name, value in self.cleaned_data.items() if name != "mode"}
        return bridge.Spec(**chosen)


class TurnForm(forms.Form):
    """How the switch, the weather, the load and the faults are set. Faults are 'fault.<id>', each from 0 to 100."""

    running = forms.BooleanField(required=False)
    outside_f = forms.FloatField(min_value=LIMITS["outside_f"][0], max_value=LIMITS["outside_f"][1])
    outside_rh = forms.FloatField(min_value=LIMITS["outside_rh"][0], max_value=LIMITS["outside_rh"][1])
    load = forms.FloatField(min_value=LIMITS["load"][0], max_value=LIMITS["load"][1])
    hunting = forms.FloatField(min_value=LIMITS["hunting"][0], max_value=LIMITS["hunting"][1])

    def __init__(self, data):
        super().__init__(data)
        for name in bridge.FAULTS:
            self.fields[f"fault.{name}"] = forms.FloatField(min_value=0, max_value=100, required=False)

    def clean(self):
        """With the faults as shares."""
        super().clean()
        chosen = self.cleaned_data
        chosen["faults"] = {name: (chosen.get(f"fault.{name}") or 0.0) / 100.0 for name in bridge.FAULTS}
        return chosen


class ForwardForm(forms.Form):
    """How many minutes to let pass at once."""

    minutes = forms.TypedChoiceField(choices=[("5", "5"), ("20", "20")], coerce=int)
