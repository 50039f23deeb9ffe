"""The job: what a technician computes and judges without gauges. Pure Python and numpy; no web, no database."""

VERSION = "0.1"
