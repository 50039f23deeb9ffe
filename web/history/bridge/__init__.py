"""A shop's record into the engine and back: the strings of a machine over the years, and what comes due."""
