"""Where the trade disagrees, the shop chooses: every school and tolerance, typed and versioned."""
