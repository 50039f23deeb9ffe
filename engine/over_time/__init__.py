"""A machine over the years: its quantities visit by visit against one anchor, with steps and trends."""
