"""Who may read what, and how often; and how the gateways' way in is described."""

from datetime import timedelta

from ninja.security import HttpBearer
from ninja.throttling import BaseThrottle

from web.accounts.limits import Limit
from web.exchange.models import ApiToken
from web.exchange.services import note_used

REQUESTS = Limit("requests", 240, timedelta(minutes=1))  # of one token


class Scoped(HttpBearer):
    """A token of a shop that has a scope. What it opens is of that shop alone."""

    def __init__(self, scope: str):
        super().__init__()
        self.scope = scope

    def authenticate(self, request, token: str) -> ApiToken | None:
        found = ApiToken.objects.with_token(token).select_related("shop").first()
        if found is None or self.scope not in found.scopes:
            return None
        note_used(found)
        return found


class OfToken(BaseThrottle):
    """So many requests of one token."""

    def allow_request(self, request) -> bool:
        token = getattr(request, "auth", None)
        return not isinstance(token, ApiToken) or REQUESTS.count(token.pk) is None

    def wait(self) -> float:
        return REQUESTS.within.total_seconds()


REFUSALS = {
    "304": {"description": "It is as the ETag says"},
    "401": {"description": "The token is not known, was revoked, or may not read this"},
    "404": {"description": "There is no such thing in the shop"},
    "422": {"description": "The request cannot be read; the answer says which part of it"},
    "429": {"description": "Too many requests of this token: wait a minute"},
}
_SAMPLE = {
    "type": "object",
    "required": ["probe", "channel", "value", "unit", "taken_at", "sequence"],
    "properties": {
        "probe": {"type": "string", "maxLength": 40},
        "channel": {"type": "string"},
        "value": {"type": "number"},
        "unit": {"type": "string"},
        "taken_at": {"type": "string", "format": "date-time"},
        "sequence": {"type": "integer", "minimum": 0},
        "battery": {"type": "integer"},
        "signal": {"type": "integer"},
    },
}
GATEWAY = {
    "/probes/samples/": {
        "post": {
            "operationId": "post_samples",
            "summary": "A batch of samples from a gateway, idempotent",
            "description": "With a gateway's own token, made under Shop, Probes. See docs/gateway.md.",
            "security": [{"Gateway": []}],
            "requestBody": {
                "required": True,
                "content": {
                    "application/json": {
                        "schema": {
                            "type": "object",
                            "required": ["clock", "samples"],
                            "properties": {
                                "clock": {"type": "string", "format": "date-time"},
                                "samples": {"type": "array", "maxItems": 500, "items": _SAMPLE},
                            },
                        }
                    }
                },
            },
            "responses": {
                "200": {"description": "One answer a sample, in their order"},
                "400": {"description": "The batch cannot be read"},
                "401": {"description": "The token is not known, or was revoked"},
                "429": {"description": "Too many batches"},
            },
        }
    }
}
