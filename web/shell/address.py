"""The address under which this installation is reached from outside, for every link that leaves it; and the one that
a request comes from.
"""

from django.conf import settings


def public_address(path: str) -> str:
    """A path as a whole address: 'https://shop.example/history/due/'. The base is the setting PUBLIC_ADDRESS."""
    return f"{settings.PUBLIC_ADDRESS.rstrip('/')}{path}"


def client_address(request) -> str:
    """The address a request comes from. A proxy's word is taken where the setting TRUSTED_PROXIES names the proxy: the
    last address in X-Forwarded-For is the one it saw itself.
    """
    near = request.META.get("REMOTE_ADDR", "")
    said = request.headers.get("X-Forwarded-For", "").rpartition(",")[2].strip()
    return said if said and near in settings.TRUSTED_PROXIES else near
