"""Background work: the archive of a shop or of some of its machines, written a few machines at a time and packed at
the end; a large one taken in; the reports of many visits; old files taken away.
"""

import re
import tempfile
import zipfile
from collections.abc import Iterable, Iterator
from datetime import timedelta
from itertools import groupby
from zoneinfo import ZoneInfo

from django.core.files.base import ContentFile, File
from django.core.files.storage import default_storage
from django.db import transaction
from django.db.models import Max, QuerySet
from django.utils import timezone

from web.accounts.models import Shop
from web.background.kinds import Kind, Step
from web.background.models import FINISHED, Work
from web.exchange import archive, report
from web.exchange.intake import IntakeRefused, take_in
from web.exchange.services import EXPORTS, taken_said, waits_at
from web.houses.models import House, System
from web.shell.bridge import shown_in
from web.shell.store import every, forget_folder
from web.visits.models import Round

AT_ONCE = 10  # machines in a step
REPORTS_AT_ONCE = 1  # a report takes about a second
PACKED = ("export", "reports")  # the kinds of work that leave something to fetch
KEPT_FOR = timedelta(days=7)
IN_MEMORY = 8 * 2**20  # a larger archive is packed on the disk


def name_of(work: Work) -> str:
    """What the archive of a shop that waits to be fetched is called in the store."""
    return f"{_parts(work)}.zip"


def fetchable(shop: Shop, works: Iterable[Work]) -> set[Work]:
    """The work of a shop that left something to fetch: packed, still in the store, and begun after the last customer
    was erased.
    """
    erased = House.objects.filter(shop=shop).aggregate(last=Max("erased_at"))["last"]
    packed = (work for work in works if work.kind in PACKED and work.state == FINISHED)
    of_now = (work for work in packed if erased is None or work.created_at > erased)
    return {work for work in of_now if default_storage.exists(name_of(work))}


def forget_exports(shop) -> None:
    """Take away what waits to be fetched: a record of before somebody was erased."""
    for work in Work.objects.filter(shop=shop, kind__in=PACKED):
        default_storage.delete(name_of(work))
        forget_folder(_parts(work))


def _parts(work: Work) -> str:
    """The folder of what is written on the way."""
    return f"{EXPORTS}/{work.public_id}"


def _step(work: Work) -> Step:
    """The next machines written to files of their own: a step that is done again writes the same ones over."""
    after, number = work.cursor.get("after", 0), work.cursor.get("number", 0)
    wanted = _wanted(work)
    systems = list(wanted.filter(pk__gt=after).select_related("house__shop")[:AT_ONCE])
    if not systems:
        return _pack(work, wanted)
    for name, lines in archive.members_of(work.shop, systems):
        default_storage.save(f"{_parts(work)}/{name}/{number:06}", ContentFile(b"".join(lines)))
    cursor = {"after": systems[-1].pk, "number": number + 1}
    return Step(len(systems), cursor, total=wanted.count())


def _wanted(work: Work) -> QuerySet[System]:
    """The machines that were asked for; all of the shop's where none were named."""
    of_shop = System.objects.filter(house__shop=work.shop, house__is_practice=False).order_by("pk")
    return of_shop.filter(pk__in=work.wants["systems"]) if "systems" in work.wants else of_shop


def _pack(work: Work, systems) -> Step:
    """All parts as one archive; what was written on the way goes."""
    by_member = groupby(every(_parts(work)), lambda name: name.split("/")[-2])
    members = ((member, _joined(parts)) for member, parts in by_member)
    with tempfile.SpooledTemporaryFile(max_size=IN_MEMORY) as out:
        archive.pack(out, work.shop, members, systems.values("pk"))
        size_mb = _finished(work, out) / 2**20
    return Step(0, work.cursor, ended=True, says=f"{_systems(work.done)}, {size_mb:.1f} MB. It waits here for a week.")


def _finished(work: Work, packed: tempfile.SpooledTemporaryFile) -> int:
    """Keep what was packed, and take away what was written on the way; how many bytes it has."""
    size = packed.tell()
    packed.seek(0)
    default_storage.save(name_of(work), File(packed))
    transaction.on_commit(lambda: forget_folder(_parts(work)), robust=True)  # a step done again finds them all
    return size


def _systems(count: int) -> str:
    return "1 system" if count == 1 else f"{count} systems"


def _joined(parts: Iterable[str]) -> Iterator[bytes]:
    """The lines of all parts of a member, in their order."""
    for part in parts:
        with default_storage.open(part) as lines:
            yield from lines.read().splitlines(keepends=True)


def _report_step(work: Work) -> Step:
    """The next reports of the visits that were asked for, each a file; packed at the end."""
    keys, at = work.wants["visits"], work.cursor.get("at", 0)
    if at >= len(keys):
        return _pack_reports(work)
    with timezone.override(ZoneInfo(work.shop.time_zone)), shown_in(work.started_by.temperatures):
        for round_ in _last_rounds(keys[at : at + REPORTS_AT_ONCE]):
            report_name = f"{_parts(work)}/{_called(round_)}"
            default_storage.save(report_name, ContentFile(report.pdf_of(work.started_by, round_)))
    return Step(len(keys[at : at + REPORTS_AT_ONCE]), {"at": at + REPORTS_AT_ONCE}, total=len(keys))


def _last_rounds(keys: list[int]) -> list[Round]:
    """The last round of each visit."""
    rows = Round.objects.filter(visit__in=keys).select_related(
        "visit__system__house__shop", "visit__started_by", "visit__with_person"
    )
    return list({row.visit_id: row for row in rows.order_by("visit", "number")}.values())


def _called(round_: Round) -> str:
    """What a report is called: its day, house and system, and its number, so that no two are alike."""
    visit = round_.visit
    named = f"{timezone.localtime(visit.started_at):%Y-%m-%d} {visit.system} {str(visit.public_id)[:8]}"
    return re.sub(r"[^\w ,.-]", "_", named)[:120] + ".pdf"


def _pack_reports(work: Work) -> Step:
    names = list(every(_parts(work)))
    with tempfile.SpooledTemporaryFile(max_size=IN_MEMORY) as out:
        with zipfile.ZipFile(out, "w", zipfile.ZIP_STORED) as packed:
            for name in names:
                with default_storage.open(name) as file:
                    packed.writestr(name.rsplit("/", 1)[-1], file.read())
        _finished(work, out)
    return Step(0, work.cursor, ended=True, says=f"{len(names)} reports. They wait here for a week.")


def _take_in(work: Work) -> Step:
    """A large archive, all of it or nothing: one step, whatever it takes. What is refused is said, not tried again."""
    try:
        with default_storage.open(waits_at(work)) as file:
            taken = take_in(work.started_by, file)
    except IntakeRefused as error:
        return Step(0, ended=True, says=f"Nothing was taken in. {error}")
    transaction.on_commit(lambda: default_storage.delete(waits_at(work)), robust=True)
    return Step(sum(taken.new.values()), ended=True, says=taken_said(taken))


def _tidy(work: Work) -> Step:
    old = [name for name in every(EXPORTS) if default_storage.get_modified_time(name) < timezone.now() - KEPT_FOR]
    for name in old:
        default_storage.delete(name)
    return Step(len(old), ended=True, says=f"{len(old)} old files of archives were taken away.")


EXPORT = Kind("Archive", _step)
REPORTS = Kind("Reports of visits", _report_step)
TAKE_IN = Kind("Archive taken in", _take_in)
TIDY_EXPORTS = Kind("Old archives", _tidy, timedelta(days=1))
