"""One round of readings in, everything that follows from them out."""
