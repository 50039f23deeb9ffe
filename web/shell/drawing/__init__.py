"""Drawing: data with roles in, SVG out. Colours come from a palette, never from the data."""
