"""What a person chooses for themselves, and a lead for the shop and the people in it."""

from django import forms
from django.contrib.auth.password_validation import password_validators_help_texts, validate_password

from web.accounts import letters
from web.accounts.models import CLIMATES, PRESSURES, TEMPERATURES, Shop, User
from web.accounts.rights import ROLES
from web.shell.fields import Number
from web.shell.forms import read_uuid


class Colleague(forms.ModelChoiceField):
    """Somebody of the shop, by public id, under their whole name."""

    def to_python(self, value):
        return super().to_python(value if not value or read_uuid(str(value)) else "")

    def label_from_instance(self, person):
        return person.get_full_name()


class PreferencesForm(forms.Form):
    """How temperatures are read and typed, and how a gauge's pressures are typed."""

    temperatures = forms.ChoiceField(
        choices=list(TEMPERATURES.items()), label="Temperatures in", widget=forms.RadioSelect
    )
    pressures = forms.ChoiceField(
        choices=list(PRESSURES.items()), label="Gauge pressures in", widget=forms.RadioSelect, required=False
    )


class ShopForm(forms.ModelForm):
    """Where most of the shop's houses are."""

    altitude_ft = Number("Altitude", -300, 12000, "ft")
    climate = forms.ChoiceField(choices=list(CLIMATES.items()), required=False, label="Climate")

    class Meta:
        model = Shop
        fields = ("altitude_ft", "climate", "weather_place")
        labels = {"weather_place": "Weather is asked for"}


class InviteForm(forms.Form):
    """Who is to join the shop, and as what."""

    first_name = forms.CharField(max_length=60, label="First name", error_messages={"required": "Say who is to join."})
    last_name = forms.CharField(max_length=60, required=False, label="Last name")
    role = forms.ChoiceField(choices=list(ROLES.items()), label="As")
    email = forms.EmailField(required=False, label="Mail address", help_text="The link is sent there.")

    def __init__(self, data=None):
        super().__init__(data)
        if not letters.are_sent():
            del self.fields["email"]


class CertificateForm(forms.Form):
    """The number under which somebody may open a circuit, and until when."""

    certificate = forms.CharField(max_length=40, required=False)
    until = forms.DateField(required=False)

    def clean(self):
        super().clean()
        found = self.cleaned_data
        if found.get("until") and not found.get("certificate"):
            self.add_error("certificate", "A day needs the number it belongs to.")
        return found


NAME_BOX = {"autocomplete": "username", "autocapitalize": "none"}  # a name to sign in with is no sentence


class ForgottenForm(forms.Form):
    """Who has forgotten the password."""

    name = forms.CharField(
        max_length=254,
        label="Name to sign in with, or mail address",
        widget=forms.TextInput(attrs=NAME_BOX),
        error_messages={"required": "Type the name you sign in with, or your mail address."},
    )


class EmailForm(forms.Form):
    """Where a person's letters go; with the password, since a new one can be had from there."""

    email = forms.EmailField(required=False, label="Mail address")
    password = forms.CharField(
        label="Your password",
        strip=False,
        widget=forms.PasswordInput(attrs={"autocomplete": "current-password"}),
        error_messages={"required": "Type your password."},
    )

    def __init__(self, person: User, data=None):
        super().__init__(data, initial={"email": person.email})
        self.person = person

    def clean_password(self):
        if not self.person.check_password(self.cleaned_data["password"]):
            raise forms.ValidationError("That is not your password.")
        return self.cleaned_data["password"]


class ComeInForm(forms.Form):
    """A name to sign in with, and a password; of somebody who has a name already, the password alone."""

    username = forms.CharField(
        max_length=60,
        label="Name to sign in with",
        widget=forms.TextInput(attrs=NAME_BOX),
        error_messages={"required": "Choose a name to sign in with."},
    )
    password = forms.CharField(
        label="Password",
        strip=False,
        widget=forms.PasswordInput(attrs={"autocomplete": "new-password"}),
        error_messages={"required": "Choose a password."},
    )
    again = forms.CharField(
        label="The same again",
        strip=False,
        widget=forms.PasswordInput(attrs={"autocomplete": "new-password"}),
        error_messages={"required": "Type it again."},
    )

    def __init__(self, data=None, person: User | None = None, first_name: str = "", last_name: str = ""):
        super().__init__(data)
        self.person = person or User(first_name=first_name, last_name=last_name)
        if person is not None:
            del self.fields["username"]
        self.fields["password"].help_text = " ".join(password_validators_help_texts())

    def clean_username(self):
        name = self.cleaned_data["username"].strip()
        if User.objects.filter(username__iexact=name).exists():
            raise forms.ValidationError("That name is taken: choose another.")
        self.person.username = name
        return name

    def clean_password(self):
        validate_password(self.cleaned_data["password"], self.person)
        return self.cleaned_data["password"]

    def clean(self):
        super().clean()
        found = self.cleaned_data
        if found.get("password") and found.get("again") and found["password"] != found["again"]:
            self.add_error("again", "The two are not the same.")
        return found
