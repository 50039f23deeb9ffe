"""The interface for other programs: read-only JSON, a token with scopes for each, an OpenAPI document of itself and of
the gateways' way in.
"""

from django.contrib.auth.decorators import login_not_required
from ninja import NinjaAPI

from web.accounts.views.door import slow_to_guess
from web.exchange.api.door import GATEWAY, REFUSALS
from web.exchange.api.reads import router


def _without_null(schema: dict) -> None:
    """What may be left out of an address is not sent as null."""
    if "anyOf" in schema:
        schema["anyOf"] = [of for of in schema["anyOf"] if of != {"type": "null"}]


class _Api(NinjaAPI):
    def get_openapi_schema(self, **more):
        """With how a request is refused, and the gateways' way in, which is beside it."""
        document = super().get_openapi_schema(**more)
        for operation in (of for path in document["paths"].values() for of in path.values()):
            operation["responses"] = {str(code): of for code, of in operation["responses"].items()} | REFUSALS
            for parameter in operation.get("parameters", []):
                _without_null(parameter["schema"])
        document["paths"] |= GATEWAY
        return document


api = _Api(
    title="Ruddy Draft",
    version="1",
    description="Read-only. A shop's lead makes tokens under Shop, Open data. Times are UTC, temperatures °F, "
    "pressures psig, statics in. w.c., weights ounces.",
    docs_url=None,
    openapi_url="openapi.json",
    urls_namespace="api",
)
api.add_router("", router)


def urls():
    """Its addresses. Nobody signs in here: the token is all that counts."""
    patterns, app, namespace = api.urls
    for pattern in patterns:
        pattern.callback = login_not_required(slow_to_guess(pattern.callback, told=(401,)))
    return patterns, app, namespace
