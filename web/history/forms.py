"""What is asked of the refrigerant log, and what is entered of cylinders."""

from datetime import datetime
from typing import cast

from django import forms
from django.utils import timezone

from web.accounts.forms import Colleague
from web.accounts.models import User
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
        super().clean()
        found = self.cleaned_data
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
        super().clean()
        found = self.cleaned_data
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


class PlanForm(NumberedForm):
    """A visit to come: who, when, for what; moving: it is planned already and goes to another hour or person."""

    person = Colleague(
        User.objects.none(), to_field_name="public_id", label="Who goes",
        error_messages={"required": "Choose who goes.", "invalid_choice": "Choose somebody of the shop."},
    )  # fmt: skip
    day = forms.DateField(
        label="Day", widget=forms.DateInput(attrs={"type": "date"}),
        error_messages={"required": "Say on which day.", "invalid": "A day: like 2026-08-01."},
    )  # fmt: skip
    hour = forms.TimeField(
        label="Hour", widget=forms.TimeInput(attrs={"type": "time"}, format="%H:%M"),
        error_messages={"required": "Say at what hour.", "invalid": "An hour: like 08:30."},
    )  # fmt: skip
    minutes = forms.IntegerField(
        label="Minutes", min_value=10, max_value=600, initial=60,
        error_messages={"min_value": "At least 10 minutes.", "max_value": "At most 600 minutes: is it a day's work?"},
    )  # fmt: skip
    mode = forms.ChoiceField(
        choices=[("", "Not said"), ("cooling", "Cooling"), ("heating", "Heating")], required=False, label="Test in"
    )
    why = forms.CharField(max_length=200, label="What for", error_messages={"required": "Say what it is for."})

    moved_why = forms.CharField(max_length=200, required=False, label="Why it is moved")

    def __init__(self, *args, people, modes=(), moving=False, **kwargs):
        super().__init__(*args, **kwargs)
        for name in ("why", "mode", "number") if moving else ("moved_why",):
            del self.fields[name]
        cast(Colleague, self.fields["person"]).queryset = people
        if len(modes) < 2:
            self.fields.pop("mode", None)
        self.only_mode = modes[0] if len(modes) == 1 else ""

    def in_mode(self) -> str:
        """In which mode it is tested, '' where nobody said."""
        return self.cleaned_data.get("mode", self.only_mode)

    def starts_at(self):
        """Day and hour on the shop's clock, or None while either is missing."""
        day, hour = self.cleaned_data.get("day"), self.cleaned_data.get("hour")
        return timezone.make_aware(datetime.combine(day, hour)) if day and hour else None


class CallOffForm(forms.Form):
    """A planned visit that does not take place."""

    called_off_why = forms.CharField(
        max_length=200, label="Why", error_messages={"required": "Say why it is called off."}
    )
