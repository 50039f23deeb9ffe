"""The visit bundle: one visit as JSON, checked against a published schema, assessed without database or web."""
