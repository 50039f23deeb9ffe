"""What a person chooses for themselves, and a lead for the shop."""

from django import forms

from web.accounts.models import CLIMATES, TEMPERATURES, Shop


class PreferencesForm(forms.Form):
    """How temperatures are read and typed."""

    temperatures = forms.ChoiceField(
        choices=list(TEMPERATURES.items()), label="Temperatures in", widget=forms.RadioSelect
    )


class Feet(forms.FloatField):
    """Feet as people write them: 1150, not 1150.0."""

    def prepare_value(self, value):
        return f"{value:g}" if isinstance(value, float) else value


class ShopForm(forms.ModelForm):
    """Where most of the shop's houses stand."""

    altitude_ft = Feet(
        required=False,
        min_value=-300,
        max_value=12000,
        label="Altitude, ft",
        widget=forms.TextInput(attrs={"inputmode": "decimal", "maxlength": "12"}),
        error_messages={
            "invalid": "Type digits, such as 1150.",
            "min_value": "From -300 to 12000 ft: check the digits and the unit.",
            "max_value": "From -300 to 12000 ft: check the digits and the unit.",
        },
    )
    climate = forms.ChoiceField(choices=list(CLIMATES.items()), required=False, label="Climate")

    class Meta:
        model = Shop
        fields = ("altitude_ft", "climate")
