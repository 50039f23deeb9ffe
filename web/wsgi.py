"""The entry point of the web server."""

import gc

from django.core.wsgi import get_wsgi_application
from django.template.loader import get_template
from django.urls import get_resolver

application = get_wsgi_application()

# Views, the engine and the largest templates are loaded now, not while the first person waits.
get_resolver().check()
for template in ("visits/sheet.html", "visits/_preview.html"):
    get_template(template)

# What is loaded by now lives as long as the worker: the collector need not walk it again, and may come less often.
gc.collect()
gc.freeze()
gc.set_threshold(50_000, 20, 20)
