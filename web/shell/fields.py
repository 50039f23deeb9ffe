"""Form fields that several apps have."""

from django import forms


class Number(forms.FloatField):
    """A number within limits, said in its own unit."""

    def __init__(self, label: str, low: float, high: float, unit: str, required: bool = False, hint: str = ""):
        self.low, self.high, self.unit = low, high, unit
        widget = forms.TextInput(attrs={"inputmode": "decimal", "maxlength": "12"})
        super().__init__(
            required=required,
            label=f"{label}, {unit}" if unit else label,
            widget=widget,
            help_text=hint,
            error_messages={"invalid": "Type digits, such as 36000 or 14.5.", "required": f"{label} is needed."},
        )

    def to_python(self, value):
        if isinstance(value, str):
            value = (
                value.strip().replace(",", "")
                if value.count(",") and "." not in value and len(value.rsplit(",", 1)[1]) == 3
                else value.strip()
            )
        return super().to_python(value.replace(",", ".") if isinstance(value, str) else value)

    def prepare_value(self, value):
        return f"{value:g}" if isinstance(value, float) else value

    def validate(self, value):
        super().validate(value)
        if value is not None and not self.low <= value <= self.high:
            raise forms.ValidationError(
                f"From {self.low:g} to {self.high:g} {self.unit}; this is {value:g}. "
                "Check the digits and the unit.".replace("  ", " ")
            )
