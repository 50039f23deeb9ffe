"""Moist air: properties, states, processes."""
