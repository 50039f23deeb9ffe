"""What a lead says about what the shop knows."""

from typing import cast

from django import forms

from web.accounts.forms import Colleague
from web.accounts.models import User
from web.kinds.services import LARGEST_FILE


class PersonForm(forms.Form):
    """A person whose visits teach nothing, and why."""

    person = Colleague(User.objects.none(), to_field_name="public_id", label="Whose visits", empty_label="Choose")
    why = forms.CharField(max_length=200, label="Why", error_messages={"required": "Say why."})

    def __init__(self, *args, people, **kwargs):
        super().__init__(*args, **kwargs)
        cast(Colleague, self.fields["person"]).queryset = people


class FileForm(forms.Form):
    """A kind file of another shop."""

    file = forms.FileField(label="Kind file", error_messages={"required": "Choose the file."})
    says = forms.CharField(
        max_length=300, label="Where it comes from", error_messages={"required": "Say where it comes from."}
    )

    def clean_file(self):
        found = self.cleaned_data["file"]
        if found.size > LARGEST_FILE:
            raise forms.ValidationError("This is larger than any kind file: choose the one that a shop exported.")
        return found
