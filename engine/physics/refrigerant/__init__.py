"""Refrigerants: saturation and superheated vapor from tables, superheat and subcooling, what the lines should show."""
