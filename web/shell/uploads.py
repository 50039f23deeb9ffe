"""What is sent to us, bounded before it is read: an upload that is too large is refused on its first line."""

from django.conf import settings

from web.shell.views import too_large

OF_STRANGERS = 2**20  # sign-in, a link's form, a gateway's batch
BESIDE_THE_FILE = 64 * 2**10  # of a form with a file


class LargestUpload:
    """Refuses a request that says it is larger than its address takes. A body without a length is read as empty. Before
    the check of the form's token, which reads the body.
    """

    def __init__(self, get_response):
        self.get_response = get_response

    def __call__(self, request):
        return self.get_response(request)

    def process_view(self, request, view, args, kwargs):
        """Answers 413 for what is too large; nothing of it is read."""
        said = request.META.get("CONTENT_LENGTH") or "0"
        length = int(said) if said.isdecimal() else 0
        if length <= OF_STRANGERS:
            return None
        most = largest_at(request.resolver_match.view_name) if request.user.is_authenticated else OF_STRANGERS
        return too_large(request, most) if length > most else None


def largest_at(address: str) -> int:
    """The most bytes that an address takes."""
    return settings.LARGEST_UPLOADS.get(address, settings.LARGEST_PHOTO_BYTES + BESIDE_THE_FILE)
