"""What these tests share: a database's data, made once."""

import shutil

import pytest

from launch.database import TEST_OPTIONS, Database
from launch.instance import Instance, free_port


@pytest.fixture(scope="session")
def made_before(tmp_path_factory):
    """The folder of an instance whose database was made and stopped: to make one takes seconds."""
    instance = Instance("test", tmp_path_factory.mktemp("made"), free_port(), free_port())
    instance.prepare()
    database = Database(instance, TEST_OPTIONS)
    database.start()
    database.stop()
    return instance.home


@pytest.fixture(scope="module")
def copied(made_before):
    """What makes a database here copies that one, with its passwords. That one is really made is of test_launch."""

    def copy(database):
        shutil.copytree(made_before / "data", database.data)
        shutil.copy(made_before / "secrets.env", database.instance.home)

    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(Database, "_create", copy)
        yield
