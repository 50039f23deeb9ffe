"""A page of ours as PDF: its paper, its rules, how small it may be set."""

from collections.abc import Mapping
from pathlib import Path

from django.template.loader import render_to_string

from web.accounts.models import Shop

A4, LETTER = "A4", "Letter"
PAPERS = {A4: "A4", LETTER: "Letter"}
PRINT = Path(__file__).parent / "print"
SMALLER = ("", "html { font-size: 7.6pt }", "html { font-size: 6.8pt; line-height: 1.2 }")
FAMILY = "Atkinson Hyperlegible Next"  # text in a drawing inherits none from the page


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
    # It takes a second to load: who prints first waits for that, instead of every process at its start.
    from web.exchange.press import Press  # noqa: PLC0415

    press = Press(pictures or {})
    page = render_to_string(template, {**context, "paper": paper}).replace("<svg ", f'<svg font-family="{FAMILY}" ')
    name = template.rsplit("/", 1)[-1].removesuffix(".html")
    rules = "\n".join((PRINT / f"{sheet}.css").read_text() for sheet in ("paper", name))
    rules += f"\n@page {{ size: {paper} }} {halves(paper)}"
    for smaller in SMALLER:
        document = press.set(page, f"{rules} {smaller}")
        if most is None or len(document.pages) <= most:
            break
    return document.write_pdf()
