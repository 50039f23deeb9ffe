"""Ducts and rooms: leakage, gain, reheat, and what a duct carries against what a room wants."""
