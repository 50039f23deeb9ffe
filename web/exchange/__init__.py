"""What leaves the shop and comes in: reports and the sheet in the panel on paper, the customer's page, open data."""
