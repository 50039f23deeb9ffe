"""The water side of a ground-source unit: fluids, exchanger tables, heat of rejection and extraction."""
