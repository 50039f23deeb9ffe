"""What is known of sound machines of a kind - everything, a class, a line, a model -, learnt from visits: how it is
learnt, what it makes of a table of quantities, and where it looks like a fault instead.
"""
