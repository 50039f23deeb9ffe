"""Settings: base, and one module per place it runs in."""
