"""The pages of the shop and of the people in it."""
