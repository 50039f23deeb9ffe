"""Pages of the history: a machine over the years, the outcomes, the refrigerant log."""
