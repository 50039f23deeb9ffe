"""What all tests share. Run them with ./ruddy test, which brings the database."""

import os

import pytest
from hypothesis import settings

settings.register_profile("ruddy", max_examples=60, deadline=None)
settings.load_profile("ruddy")


def pytest_configure(config):
    if not os.environ.get("RUDDY_DB_PORT"):
        raise pytest.UsageError("No database: run the tests with ./ruddy test (it passes arguments on to pytest).")
