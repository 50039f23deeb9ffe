"""Setting a page. What it may load is named here: our own fonts and style sheets, and the pictures that are handed in.
No address is ever fetched.
"""

from collections.abc import Mapping
from pathlib import Path

from django.contrib.staticfiles import finders
from django.core.exceptions import SuspiciousFileOperation
from django.core.files.storage import default_storage
from weasyprint import CSS, HTML
from weasyprint.text.fonts import FontConfiguration
from weasyprint.urls import URLFetcher, URLFetcherResponse

OURS, PICTURE = "ours:", "picture:"


class Ours(URLFetcher):
    """Serves `ours:` (a static file) and `picture:` (one of those handed in); refuses everything else."""

    def __init__(self, pictures: Mapping[str, str]):
        super().__init__(allowed_protocols=())
        self.pictures = pictures

    def fetch(self, url, headers=None):
        content = self._picture(url) if url.startswith(PICTURE) else self._ours(url)
        if content is None:
            raise ValueError(f"a page on paper does not load {url}")
        return URLFetcherResponse(url, content)

    def _picture(self, url: str) -> bytes | None:
        name = self.pictures.get(url.removeprefix(PICTURE))
        if name is None:
            return None
        with default_storage.open(name) as file:
            return file.read()

    def _ours(self, url: str) -> bytes | None:
        if not url.startswith(OURS):
            return None
        try:
            found = finders.find(url.removeprefix(OURS))
        except SuspiciousFileOperation:  # outside of what is served
            return None
        return Path(found).read_bytes() if found else None


class Press:
    """Sets pages with our fonts. pictures: their names in the store, by what a template calls them."""

    def __init__(self, pictures: Mapping[str, str]):
        self.pictures = pictures

    def set(self, page: str, rules: str):
        """A page set by rules (CSS): tagged, its fonts embedded."""
        fetcher, fonts = Ours(self.pictures), FontConfiguration()
        styles = [CSS(string=rules, font_config=fonts, url_fetcher=fetcher, base_url=OURS)]
        html = HTML(string=page, url_fetcher=fetcher, base_url=OURS)
        return html.render(stylesheets=styles, font_config=fonts, pdf_tags=True, optimize_images=True, dpi=150)
