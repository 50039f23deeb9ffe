"""Judging what was read before again: under the engine of today, or under a house rule that is tried."""
