"""How far every result can be trusted, and which input decides it."""
