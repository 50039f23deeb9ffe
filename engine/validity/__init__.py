"""Whether a round may count, and what each finding withholds: everything, the circuit, the split, the baseline."""
