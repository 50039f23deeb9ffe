"""Long random tokens that open one thing: of each only a hash is kept."""

import hashlib
import secrets


def new_token() -> str:
    """A token that nobody guesses: 256 bits."""
    return secrets.token_urlsafe(32)


def hash_of(token: str) -> str:
    """What is kept of a token. Tokens are long and random, so that a plain hash is enough."""
    return hashlib.sha256(token.encode()).hexdigest()
