"""What is judged again."""

from django import forms

from web.houses.models import KINDS


class ReassessForm(forms.Form):
    """Which visits; empty for all of them."""

    since = forms.DateField(required=False, label="Visits since", widget=forms.DateInput(attrs={"type": "date"}))
    machine = forms.ChoiceField(required=False, label="Machines", choices=[("", "All"), *KINDS.items()])
    rule = forms.CharField(required=False, max_length=60, widget=forms.HiddenInput)
    value = forms.CharField(required=False, max_length=40, widget=forms.HiddenInput)
