"""What every page needs to know."""

from django.conf import settings

THEMES = ("paper", "lamp")
THEME_COOKIE = "theme"


def theme(request):
    """The theme chosen on this device, so that the page comes up in it, '' follows the device; the largest picture in
    bytes.
    """
    chosen = request.COOKIES.get(THEME_COOKIE)
    return {"theme": chosen if chosen in THEMES else "", "largest_photo": settings.LARGEST_PHOTO_BYTES}
