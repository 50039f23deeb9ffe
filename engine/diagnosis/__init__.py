"""Which causes explain the quantities, what to measure next, and the one verdict. Ids and numbers, no sentences."""
