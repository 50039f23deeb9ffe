"""What the system should read today."""
