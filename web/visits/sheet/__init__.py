"""One round's sheet: its fields filled from what is stored or being typed, assessed, with the notes beside each field."""

from web.visits.sheet.filling import drafted_sheet, stored_sheet
from web.visits.sheet.state import HUMIDITY_KINDS, FieldState, Note, Sheet, current_values

__all__ = ["HUMIDITY_KINDS", "FieldState", "Note", "Sheet", "current_values", "drafted_sheet", "stored_sheet"]
