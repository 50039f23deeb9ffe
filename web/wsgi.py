"""The entry point of the web server."""

from django.core.wsgi import get_wsgi_application

application = get_wsgi_application()
