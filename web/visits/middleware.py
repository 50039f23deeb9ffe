"""Sentences and figures come in the scale the person reads."""

from web.shell.bridge import shown_in


class PersonsScale:
    """Temperatures in °F or °C for the request, as the signed-in person has chosen."""

    def __init__(self, get_response):
        self.get_response = get_response

    def __call__(self, request):
        with shown_in(request.user.temperatures if request.user.is_authenticated else "F"):
            return self.get_response(request)
