"""What a person chooses for themselves."""

from django import forms

from web.accounts.models import TEMPERATURES


class PreferencesForm(forms.Form):
    """How temperatures are read and typed."""

    temperatures = forms.ChoiceField(
        choices=list(TEMPERATURES.items()), label="Temperatures in", widget=forms.RadioSelect
    )
