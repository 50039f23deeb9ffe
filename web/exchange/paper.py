"""A page of ours as PDF. What it may load is named here: our own fonts and style sheets, and the pictures that are
handed in. No address is ever fetched.
"""

from collections.abc import Mapping
from pathlib import Path

from django.contrib.staticfiles import finders
from django.core.exceptions import SuspiciousFileOperation
from django.core.files.storage import default_storage
from django.template.loader import render_to_string
from weasyprint import CSS, HTML
from weasyprint.text.fonts import FontConfiguration
from weasyprint.urls import URLFetcher, URLFetcherResponse

from web.accounts.models import Shop

A4, LETTER = "A4", "Letter"
PAPERS = {A4: "A4", LETTER: "Letter"}
PRINT = Path(__file__).parent / "print"
SMALLER = ("", "html { font-size: 7.6pt }", "html { font-size: 6.8pt; line-height: 1.2 }")
FAMILY = "Atkinson Hyperlegible Next"  # text in a drawing inherits none from the page
OURS, PICTURE = "ours:", "picture:"


class _Ours(URLFetcher):
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


def paper_of(shop: Shop, asked: str = "") -> str:
    """The paper asked for; else what is usual where the shop is: Letter in the Americas, A4 elsewhere."""
    return asked if asked in PAPERS else LETTER if shop.time_zone.startswith("America/") else A4


# Of a sheet of paper cut in two: its half's height and the strip at an edge that no printer reaches [mm].
HALF_MM, EDGE_MM = {A4: 148.5, LETTER: 139.7}, 8.5


def halves(paper: str) -> str:
    """Where the two halves of a sheet of paper stand, as CSS: nothing within 8 mm of an edge or of the cut."""
    half, inner = HALF_MM[paper], HALF_MM[paper] - 2 * EDGE_MM
    places = "".join(
        f".{name} {{ top: {top:g}mm; height: {inner:g}mm }} "
        for name, top in (("upper", EDGE_MM), ("lower", half + EDGE_MM))
    )
    return f"{places}.cut {{ top: {half:g}mm }}"


def pdf(
    template: str, context: dict, paper: str, pictures: Mapping[str, str] | None = None, most: int | None = None
) -> bytes:
    """A template as PDF, tagged, its fonts embedded. It takes `print/<its name>.css` and `print/paper.css`.

    pictures: their names in the store, by what the template calls them: 'picture:<name>'. most: of pages; what is too
    long for them is set smaller, as long as it can be read.
    """
    page = render_to_string(template, {**context, "paper": paper}).replace("<svg ", f'<svg font-family="{FAMILY}" ')
    name = template.rsplit("/", 1)[-1].removesuffix(".html")
    rules = "\n".join((PRINT / f"{sheet}.css").read_text() for sheet in ("paper", name))
    rules += f"\n@page {{ size: {paper} }} {halves(paper)}"
    for smaller in SMALLER:
        document = _set(page, f"{rules} {smaller}", pictures or {})
        if most is None or len(document.pages) <= most:
            break
    return document.write_pdf()


def _set(page: str, rules: str, pictures: Mapping[str, str]):
    fetcher, fonts = _Ours(pictures), FontConfiguration()
    styles = [CSS(string=rules, font_config=fonts, url_fetcher=fetcher, base_url=OURS)]
    html = HTML(string=page, url_fetcher=fetcher, base_url=OURS)
    return html.render(stylesheets=styles, font_config=fonts, pdf_tags=True, optimize_images=True, dpi=150)
