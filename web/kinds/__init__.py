"""What the shop knows of sound machines of each kind: learnt from its own visits, or taken in as a file."""
