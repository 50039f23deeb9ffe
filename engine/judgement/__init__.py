"""What the numbers mean: contradictions, whether the test counts, each indicator's state, the first verdict."""
