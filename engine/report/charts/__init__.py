"""Curves and marks as data: numbers and roles, no drawing. Screen, print and tests use the same curves."""
