"""One choice on the house rules page."""

from django import forms


class ChangeForm(forms.Form):
    """Which rule, which alternative, and the version the person looked at."""

    rule = forms.CharField(max_length=60)
    value = forms.CharField(max_length=40)
    seen_version = forms.IntegerField(min_value=0)
