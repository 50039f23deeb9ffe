"""Practice: a sheet on a simulated house, whose faults, weather and load are turned up and down while the drawing
lives.
"""
