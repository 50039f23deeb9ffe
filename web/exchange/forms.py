"""What is taken in."""

from django import forms

from web.exchange.models import SCOPES


class ArchiveForm(forms.Form):
    """An archive of Ruddy Draft."""

    file = forms.FileField(
        label="Archive",
        help_text="A .zip that was exported here or by another shop's Ruddy Draft, at most 100 MB.",
        error_messages={"required": "Choose an archive first.", "empty": "This file is empty."},
        widget=forms.ClearableFileInput(attrs={"accept": ".zip"}),
    )


class RegisterForm(forms.Form):
    """A spreadsheet of customers and systems."""

    file = forms.FileField(
        label="Customers and systems",
        help_text="A CSV whose first line names the columns, such as Street, Customer, System, Tons, Model, Serial.",
        error_messages={"required": "Choose a file first.", "empty": "This file is empty."},
        widget=forms.ClearableFileInput(attrs={"accept": ".csv,.txt"}),
    )


class TokenForm(forms.Form):
    """A token for another program."""

    name = forms.CharField(
        max_length=60, label="For which program", error_messages={"required": "Say for which program it is."}
    )
    scopes = forms.MultipleChoiceField(
        choices=list(SCOPES.items()),
        widget=forms.CheckboxSelectMultiple,
        label="It may read",
        error_messages={"required": "Choose what it may read."},
    )


class KeepingForm(forms.Form):
    """How long customers are kept."""

    keeps_years = forms.IntegerField(
        min_value=1,
        max_value=50,
        required=False,
        label="Years after the last visit",
        help_text="Empty: until a lead erases them. Ask what the law where you are wants kept, and for how long.",
    )
