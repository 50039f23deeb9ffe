"""What a person chooses for themselves, and a lead for the shop."""

from django import forms

from web.accounts.models import CLIMATES, PRESSURES, TEMPERATURES, Shop
from web.shell.fields import Number


class PreferencesForm(forms.Form):
    """How temperatures are read and typed, and how a gauge's pressures are typed."""

    temperatures = forms.ChoiceField(
        choices=list(TEMPERATURES.items()), label="Temperatures in", widget=forms.RadioSelect
    )
    pressures = forms.ChoiceField(
        choices=list(PRESSURES.items()), label="Gauge pressures in", widget=forms.RadioSelect, required=False
    )


class ShopForm(forms.ModelForm):
    """Where most of the shop's houses stand."""

    altitude_ft = Number("Altitude", -300, 12000, "ft")
    climate = forms.ChoiceField(choices=list(CLIMATES.items()), required=False, label="Climate")

    class Meta:
        model = Shop
        fields = ("altitude_ft", "climate", "weather_place")
        labels = {"weather_place": "Weather is asked for"}
