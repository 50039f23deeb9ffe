"""Background work: what runs without anybody waiting for it, how far it is, and what went wrong."""
