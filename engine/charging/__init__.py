"""Charging or recovering in weighed steps: by what, whether the machine is proved, how much, when to stop."""
