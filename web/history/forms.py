"""What is asked of the refrigerant log, and what is entered of cylinders."""

from django import forms

from web.houses.models import REFRIGERANTS
from web.shell.once import NumberedForm
from web.visits.bridge.charging import ounces
from web.visits.models import CORRECTED, MOVES

_HINT = "As the scale shows it: 14 lb 2.5, 226.5 oz or 6.42 kg."


class Weight(forms.CharField):
    """A weight as a scale shows it, in ounces."""

    def __init__(self, label: str, required: bool = False, help_text: str = "", signed: bool = False):
        super().__init__(max_length=20, required=required, label=label, help_text=help_text)
        self.signed = signed

    def clean(self, value):
        text = super().clean(value).strip()
        if not text:
            return None
        minus = self.signed and text[0] in "-−"
        oz = ounces(text[1:] if minus else text)
        if oz is None or oz == 0:
            raise forms.ValidationError(f"'{text}' is no weight. {_HINT}")
        return -oz if minus else oz


class CylinderForm(NumberedForm):
    """A new cylinder of the shop's."""

    label = forms.CharField(max_length=40, label="Label", help_text="As written on it: C-11.")
    refrigerant = forms.ChoiceField(
        choices=[("", "Choose"), *((name, name) for name in REFRIGERANTS), ("mixed", "Mixed")]
    )
    is_recovery = forms.BooleanField(required=False, label="Recovery cylinder")
    tare_oz = Weight("Empty weight", help_text=_HINT)
    holds_oz = Weight("Holds", help_text="What it may be filled with.")
    has_oz = Weight("Bought with", help_text="What is in it now.")

    def clean(self):
        found = super().clean()
        has, holds = found.get("has_oz"), found.get("holds_oz")
        if has and holds and has > holds:
            self.add_error("has_oz", "That is more than it holds. Is it the weight with the cylinder?")
        return found


class MoveForm(NumberedForm):
    """What came into a cylinder or left it."""

    did = forms.ChoiceField(choices=list(MOVES.items()), label="What happened")
    oz = Weight("How much", required=True, signed=True, help_text=f"{_HINT} A correction may be under 0.")
    on = forms.DateField(
        required=False, label="Day, where it was not today", widget=forms.DateInput(attrs={"type": "date"})
    )
    why = forms.CharField(max_length=200, required=False, label="Why, of a correction")

    def clean(self):
        found = super().clean()
        if found.get("oz") and found["oz"] < 0 and found.get("did") != CORRECTED:
            self.add_error("oz", "Only a correction is under 0.")
        return found


class DueForm(NumberedForm):
    """Something that is due, moved to another day."""

    kind = forms.CharField(max_length=20, widget=forms.HiddenInput)
    ref = forms.CharField(max_length=40, widget=forms.HiddenInput)
    until = forms.DateField(
        error_messages={"required": "Say until which day.", "invalid": "A day: like 2026-08-01."},
        widget=forms.DateInput(attrs={"type": "date"}),
    )
    why = forms.CharField(max_length=200, error_messages={"required": "Say why it is moved."})
