"""The report of a visit on paper: two pages at most, every script, everything the screen says, a draft while open."""

import io
import json
import re
import uuid
import zipfile

import pdfplumber
import pytest
from django.urls import reverse
from pypdfium2 import PdfDocument

from engine import VERSION
from tests.web.conftest import a_picture, plain, whole_sheet
from tests.web.test_due import finish
from web.accounts.models import User
from web.accounts.rights import LEAD
from web.background.models import Work
from web.background.steps import run_step
from web.exchange import paper
from web.exchange.paper import A4, LETTER, paper_of
from web.exchange.press import Ours
from web.exchange.tasks import EXPORT, REPORTS
from web.history.summaries import summarise, to_summarise
from web.houses.models import House
from web.visits import changes
from web.visits.changes import picture_files

LIMIT_BYTES = 400_000
SAYS = (
    "Ours house, main", "“Warm upstairs after lunch”", "This system does what it should today.",
    "The filter is blocked.", "Filter changed", "A new filter is in.", "Temperature split", "How sure:", "cannot see",
    "Ours probe", "calibrated", "local codes and licensed practice prevail", f"Engine of {VERSION}", "house rules",
    "Before and after", "Ana Test",
    "Expected by the published curves, for this air and weather: temperature split",
)  # fmt: skip
LONG_NAME = "The house at the end of the long lane behind the mill, second gate on the left"


def number(n):
    return uuid.UUID(int=n)


def report(client, visit, **asked):
    answer = client.get(reverse("exchange:report", args=[visit.public_id]), asked)
    assert answer.status_code == 200 and answer["Content-Type"] == "application/pdf"
    assert "no-store" in answer["Cache-Control"]
    return answer.content


def said(content):
    """Its words, page after page, in one line."""
    return re.sub(r"\s+", " ", " ".join(page.get_textpage().get_text_range() for page in PdfDocument(content)))


@pytest.fixture
def mended(ours, device, signed_in):
    """A blocked filter found, changed, read again, finished."""
    device.whole_visit()
    device.send(
        device.entry("observation", seen="filter", degree="blocked"),
        device.item("filter", "pressure_drop", "0.42", "inwc"),
        device.entry("remark", about="complaint", text="Warm upstairs after lunch"),
        device.entry("action", done="filter_changed"),
    )
    ours.round = changes.next_round(ours.person, ours.visit, 1)
    device.whole_visit()
    finish(ours, ours.visit, for_customer="A new filter is in.")
    return ours.visit


@pytest.mark.parametrize("size", [A4, LETTER])
def test_it_says_what_the_screen_says_on_two_pages_at_most(signed_in, mended, ours, size):
    content = report(signed_in, mended, paper=size)
    pages = PdfDocument(content)
    assert len(pages) <= 2 and len(content) < LIMIT_BYTES
    assert tuple(round(side) for side in pages[0].get_size()) == {A4: (595, 842), LETTER: (612, 792)}[size]
    text = said(content)
    for what in SAYS:
        assert what in text, what
    assert "Draft:" not in text


def test_what_a_sound_machine_leaves_to_read_is_no_advice(signed_in, mended, ours):
    """The page still asks for the rest of the walk; on the paper the visit is over."""
    reading = re.search(r"Next[^.]{0,20}(Read (?:a|the|both) [^.]*)\.", plain(whole_sheet(signed_in, ours.visit)))[1]
    assert reading not in said(report(signed_in, ours.visit))


def test_an_open_visit_is_a_draft_and_one_of_two_readings_is_reported_all_the_same(signed_in, ours, device):
    device.send(device.item("return_unit", "dry_bulb", "76.4"), device.item("supply_plenum", "dry_bulb", "57.0"))
    text = said(report(signed_in, ours.visit))
    assert "Draft: the visit is not finished." in text and "Nothing was changed." in text


def test_the_longest_visit_still_fits_two_pages(signed_in, mended, ours, device):
    """Many remarks, follow-ups with long words, pictures, a name of eighty characters."""
    House.objects.filter(pk=ours.house.pk).update(name=LONG_NAME)
    large = a_picture(size=(800, 600))
    pictures = [changes.add_photo(ours.person, number(n), ours.system, ours.round, "coil", large) for n in range(1, 7)]
    changes.reopen_visit(ours.person, mended, "More to say")
    for n in range(3):
        device.send(device.entry("remark", about="complaint", text="Too warm in the bedroom, " * 12))
        changes.open_follow_up(
            ours.person, ours.system, f"{n}: " + "come back and look at the long duct " * 7, "charge"
        )
    finish(
        ours, mended, for_customer="What we did, in many words. " * 30, pictures=[str(p.public_id) for p in pictures]
    )
    content = report(signed_in, mended)
    assert len(PdfDocument(content)) <= 2


def test_every_script_has_its_letters(signed_in, mended, ours):
    """Hebrew, Arabic, Greek, Devanagari and pictures in a name: no box in a letter's place."""
    House.objects.filter(pk=ours.house.pk).update(name="בית 🏡 منزل Σπίτι घर Größe")
    content = report(signed_in, mended)
    with pdfplumber.open(io.BytesIO(content)) as pdf:
        letters = {char["text"]: char["fontname"] for char in pdf.pages[0].chars}
    for letter, font in (("ב", "Noto-Sans-Hebrew"), ("Σ", ""), ("घ", "Noto-Sans-Devanagari"), ("ß", "")):
        assert font.replace("-", "") in letters[letter].replace("-", ""), letter
    assert "Größe" in said(content)


def test_a_page_on_paper_fetches_nothing(settings, tmp_path):
    """Neither an address nor a file of this machine, whatever a name or a remark says."""
    fetcher = Ours({})
    for url in ("https://example.com/x.png", "file:///etc/passwd", "ours:../settings/base.py", "picture:nobody"):
        with pytest.raises(ValueError, match="does not load"):
            fetcher.fetch(url)
    assert len(paper.FAMILY) > 3


def test_what_is_typed_is_text_on_it(signed_in, mended, ours):
    House.objects.filter(pk=ours.house.pk).update(name='<img src="https://example.com/x.png"> & <b>Co</b>')
    assert '<img src="https://example.com/x.png"> & <b>Co</b>' in said(report(signed_in, mended))


def test_a_picture_that_is_gone_leaves_the_rest(signed_in, mended, ours):
    photo = changes.add_photo(ours.person, number(9), ours.system, ours.round, "coil", a_picture())
    changes.reopen_visit(ours.person, mended, "A picture")
    finish(ours, mended, pictures=[str(photo.public_id)])
    picture_files.forget(photo)
    assert "Filter changed" in said(report(signed_in, mended))


def test_the_paper_is_the_one_usual_where_the_shop_is(ours):
    assert paper_of(ours.shop) == LETTER and paper_of(ours.shop, A4) == A4 and paper_of(ours.shop, "roll") == LETTER
    ours.shop.time_zone = "Europe/Vienna"
    assert paper_of(ours.shop) == A4


def made(signed_in, kind, start, asked):
    """The files that background work made of what was asked, and what it says."""
    signed_in.post(start, asked)
    work = Work.objects.filter(kind=kind).latest("pk")
    (REPORTS if kind == "reports" else EXPORT).step(work)  # a worker that was killed: the step is done again
    while run_step(work.pk):
        pass
    work.refresh_from_db()
    content = b"".join(signed_in.get(reverse("exchange:shop_archive", args=[work.public_id])).streaming_content)
    with zipfile.ZipFile(io.BytesIO(content)) as packed:
        return {name: packed.read(name) for name in packed.namelist()}, work.says


def test_reports_and_the_archive_of_what_a_lead_looks_at_are_made_in_the_background(signed_in, mended, ours):
    reports, machines = reverse("exchange:start_reports"), reverse("exchange:start_narrowed")
    for start in (reports, machines):
        assert signed_in.post(start).status_code == 403 and not Work.objects.exists(), "leads only"
    User.objects.filter(pk=ours.person.pk).update(role=LEAD)
    ours.person.refresh_from_db()
    while steps := to_summarise(5):
        for step in steps:
            summarise(step)
    for days in ("90", "x"):
        [(name, report)] = made(signed_in, "reports", reports, {"days": days})[0].items()
        assert "Ours house, main" in name and name.endswith(".pdf")
        assert "This system does what it should today." in said(report)
        files, _ = made(signed_in, "export", machines, {"days": days})
        assert json.loads(files["manifest.json"])["records"]["system"] == 1
    none = {"model": "nothing like it"}
    assert made(signed_in, "reports", reports, none)[1].startswith("0 reports")
    assert made(signed_in, "export", machines, none)[1].startswith("0 systems")
