"""Makers' tables as people bring them: typed, or pasted from a spreadsheet or CSV. Read, checked, and given back as
understood.
"""
