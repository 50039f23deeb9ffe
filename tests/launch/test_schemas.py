"""Tables of earlier versions are brought up to this code: nothing of what was kept is lost or changed, and the sheets
open. Each file was written by the code of its day, with one invented shop: a visit to an air conditioner, one to a
ground-source machine. Names: what was new in that version.
"""

import os
from pathlib import Path

import pytest

from launch import dump
from launch.database import TEST_OPTIONS, Database
from launch.instance import Instance, free_port
from launch.statics import gather
from launch.supervisor import manage
from tests.launch.test_launch import ask

pytestmark = [pytest.mark.xdist_group("launch"), pytest.mark.usefixtures("copied")]
SCHEMAS = sorted((Path(__file__).parent / "schemas").glob("*.sql.gz"))
# The oldest runs through every step since, the newest has most in its tables; SCHEMAS=all brings up those between too.
CHOSEN = (
    SCHEMAS if os.environ.get("SCHEMAS") == "all" else [s for s in SCHEMAS if s.name.startswith(("practice", "due"))]
)
KEPT = (
    "visits_reading", "visits_observation", "visits_remark", "visits_action", "visits_visit", "visits_round",
    "visits_assessment", "houses_house", "houses_system", "accounts_user",
)  # fmt: skip
READINGS = "SELECT HEX(uuid), place, quantity, typed, unit, value, source, taken_at FROM visits_reading ORDER BY id"


@pytest.fixture(scope="module")
def migrating(tmp_path_factory, copied):
    home = tmp_path_factory.mktemp("migrating")
    instance = Instance("demo", home, free_port(), free_port(), "web.settings.demo")
    instance.prepare()
    database = Database(instance, TEST_OPTIONS)
    database.start()
    gather(instance)
    yield instance
    database.stop()


@pytest.mark.parametrize("schema", CHOSEN, ids=lambda path: path.name.removesuffix(".sql.gz"))
def test_an_earlier_schema_is_brought_up_and_nothing_is_lost(migrating, schema, capfd):
    dump.drop_all(migrating)
    dump.load(migrating, dump.lines_of(schema))
    before, readings = dump.tables_of(migrating), ask(migrating, READINGS)
    manage(migrating, "migrate_once")
    after = dump.tables_of(migrating)
    assert before["visits_reading"]["rows"] >= 6
    lost = {name for name in KEPT if name in before and before[name]["rows"] != after[name]["rows"]}
    assert not lost and ask(migrating, READINGS) == readings
    manage(migrating, "migrate_once")
    assert dump.tables_of(migrating) == after, "a second time changes nothing"
    capfd.readouterr()
    manage(migrating, "open_sheets")
    assert capfd.readouterr().out == "2 sheets opened.\n"


def test_there_are_schemas_to_bring_up():
    assert len(SCHEMAS) >= 4 and len(CHOSEN) >= 2
