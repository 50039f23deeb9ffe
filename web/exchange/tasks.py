"""Background work: the archive of a shop or of some of its machines, written a few machines at a time and packed at
the end; a large one taken in; the reports of many visits; old files taken away.
"""

import re
import shutil
import zipfile
from collections.abc import Iterable, Iterator
from datetime import timedelta
from pathlib import Path
from zoneinfo import ZoneInfo

from django.conf import settings
from django.db.models import QuerySet
from django.utils import timezone

from web.background.kinds import Kind, Step
from web.background.models import Work
from web.exchange import archive, report
from web.exchange.intake import IntakeRefused, take_in
from web.exchange.services import taken_said, waits_at
from web.houses.models import System
from web.shell.bridge import shown_in
from web.visits.models import Round

AT_ONCE = 10  # machines in a step
REPORTS_AT_ONCE = 1  # a report takes about a second
KEPT_FOR = timedelta(days=7)
READ_AT_ONCE = 2**20


def file_of(work: Work) -> Path:
    """Where the archive of a shop waits to be fetched."""
    return _folder() / f"{work.public_id}.zip"


def forget_exports(shop) -> None:
    """Take away what waits to be fetched: a record of before somebody was erased."""
    for number in Work.objects.filter(shop=shop, kind__in=("export", "reports")).values_list("public_id", flat=True):
        for path in _folder().glob(f"{number}*"):
            shutil.rmtree(path) if path.is_dir() else path.unlink()


def _folder() -> Path:
    return settings.MEDIA_ROOT / "exports"


def _step(work: Work) -> Step:
    """The next machines written to files of their own: a step that is done again writes the same ones over."""
    after, number = work.cursor.get("after", 0), work.cursor.get("number", 0)
    wanted = _wanted(work)
    systems = list(wanted.filter(pk__gt=after).select_related("house__shop")[:AT_ONCE])
    parts = _folder() / str(work.public_id)
    if not systems:
        return _pack(work, parts, wanted)
    for name, lines in archive.members_of(work.shop, systems):
        part = parts / name / f"{number:06}"
        part.parent.mkdir(parents=True, exist_ok=True)
        with part.open("wb") as out:
            out.writelines(lines)
    cursor = {"after": systems[-1].pk, "number": number + 1}
    return Step(len(systems), cursor, total=wanted.count())


def _wanted(work: Work) -> QuerySet[System]:
    """The machines that were asked for; all of the shop's where none were named."""
    of_shop = System.objects.filter(house__shop=work.shop, house__is_practice=False).order_by("pk")
    return of_shop.filter(pk__in=work.wants["systems"]) if "systems" in work.wants else of_shop


def _pack(work: Work, parts: Path, systems) -> Step:
    """All parts as one archive; what was written on the way goes."""
    members = [(folder.name, _joined(folder)) for folder in sorted(parts.iterdir())] if parts.exists() else []
    unfinished = file_of(work).with_suffix(".part")
    unfinished.parent.mkdir(parents=True, exist_ok=True)
    with unfinished.open("wb") as out:
        archive.pack(out, work.shop, members, systems.values("pk"))
    unfinished.rename(file_of(work))
    shutil.rmtree(parts, ignore_errors=True)
    size = file_of(work).stat().st_size / 2**20
    return Step(0, work.cursor, ended=True, says=f"{_systems(work.done)}, {size:.1f} MB. It waits here for a week.")


def _systems(count: int) -> str:
    return "1 system" if count == 1 else f"{count} systems"


def _joined(folder: Path) -> Iterator[bytes]:
    """The lines of all parts of a member, in their order."""
    for part in sorted(folder.iterdir()):
        with part.open("rb") as lines:
            yield from lines


def _report_step(work: Work) -> Step:
    """The next reports of the visits that were asked for, each a file; packed at the end."""
    keys, at = work.wants["visits"], work.cursor.get("at", 0)
    parts = _folder() / str(work.public_id)
    if at >= len(keys):
        return _pack_reports(work, parts)
    parts.mkdir(parents=True, exist_ok=True)
    with timezone.override(ZoneInfo(work.shop.time_zone)), shown_in(work.started_by.temperatures):
        for round_ in _last_rounds(keys[at : at + REPORTS_AT_ONCE]):
            (parts / _name_of(round_)).write_bytes(report.pdf_of(work.started_by, round_))
    return Step(len(keys[at : at + REPORTS_AT_ONCE]), {"at": at + REPORTS_AT_ONCE}, total=len(keys))


def _last_rounds(keys: list[int]) -> list[Round]:
    """The last round of each visit."""
    rows = Round.objects.filter(visit__in=keys).select_related(
        "visit__system__house__shop", "visit__started_by", "visit__with_person"
    )
    return list({row.visit_id: row for row in rows.order_by("visit", "number")}.values())


def _name_of(round_: Round) -> str:
    """What a report is called: its day, house and system, and its number, so that no two are alike."""
    visit = round_.visit
    named = f"{timezone.localtime(visit.started_at):%Y-%m-%d} {visit.system} {str(visit.public_id)[:8]}"
    return re.sub(r"[^\w ,.-]", "_", named)[:120] + ".pdf"


def _pack_reports(work: Work, parts: Path) -> Step:
    files = sorted(parts.iterdir()) if parts.exists() else []
    with zipfile.ZipFile(file_of(work).with_suffix(".part"), "w", zipfile.ZIP_STORED) as packed:
        for file in files:
            packed.write(file, file.name)
    file_of(work).with_suffix(".part").rename(file_of(work))
    shutil.rmtree(parts, ignore_errors=True)
    return Step(0, work.cursor, ended=True, says=f"{len(files)} reports. They wait here for a week.")


def _take_in(work: Work) -> Step:
    """A large archive, all of it or nothing: one step, whatever it takes. What is refused is said, not tried again."""
    path = waits_at(work)
    try:
        with path.open("rb") as file:
            taken = take_in(work.started_by, file)
    except IntakeRefused as error:
        return Step(0, ended=True, says=f"Nothing was taken in. {error}")
    path.unlink()
    return Step(sum(taken.new.values()), ended=True, says=taken_said(taken))


def _tidy(work: Work) -> Step:
    gone = _old(_folder().iterdir() if _folder().exists() else ())
    return Step(gone, ended=True, says=f"{gone} old archives were taken away.")


def _old(paths: Iterable[Path]) -> int:
    gone = 0
    for path in list(paths):
        if path.stat().st_mtime < (timezone.now() - KEPT_FOR).timestamp():
            shutil.rmtree(path) if path.is_dir() else path.unlink()
            gone += 1
    return gone


EXPORT = Kind("Archive", _step)
REPORTS = Kind("Reports of visits", _report_step)
TAKE_IN = Kind("Archive taken in", _take_in)
TIDY_EXPORTS = Kind("Old archives", _tidy, timedelta(days=1))
