"""The entry point of the web server."""

import gc

from django.core.wsgi import get_wsgi_application

application = get_wsgi_application()

# What is loaded by now lives as long as the worker: the collector need not walk it again, and may come less often.
gc.collect()
gc.freeze()
gc.set_threshold(50_000, 20, 20)
