"""The job: what a technician computes and judges without gauges. Pure Python and numpy; no web, no database."""

# The day of the last change to what it expects or judges, with a letter from the second of a day on: kept with every
# assessment, so that judging again tells two engines apart. A test (tests/engine/test_version.py) says when it is due.
VERSION = "2026-12-02f"
