"""One module and one object for each quantity: measured, expected, the difference, the tolerance, the state, the
residual.
"""
