"""Readings as they come from people and probes: the vocabulary, and what one reading alone can get wrong."""
