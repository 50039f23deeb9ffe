"""The entry point of the web server."""

import gc
from pathlib import Path

from django.conf import settings
from django.core.wsgi import get_wsgi_application
from django.shortcuts import resolve_url
from django.template.loader import get_template
from django.urls import get_resolver

from engine.physics.refrigerant.properties import REFRIGERANTS, refrigerant

application = get_wsgi_application()

# Views, addresses, the engine with its tables and the templates of a sheet are loaded now, not while the first person
# waits.
get_resolver().check()
resolve_url(settings.LOGIN_URL)
for name in REFRIGERANTS:
    refrigerant(name)
TEMPLATES = Path(__file__).parent / "visits/templates"
for template in TEMPLATES.rglob("*.html"):
    get_template(str(template.relative_to(TEMPLATES)))

# What is loaded by now lives as long as the worker: the collector need not walk it again, and may come less often.
gc.collect()
gc.freeze()
gc.set_threshold(50_000, 20, 20)
