"""The address under which this installation is reached from outside: for every link that leaves it."""

from django.conf import settings


def public_address(path: str) -> str:
    """A path as a whole address: 'https://shop.example/history/due/'. The base is the setting PUBLIC_ADDRESS."""
    return f"{settings.PUBLIC_ADDRESS.rstrip('/')}{path}"
