"""Where the sheet meets the engine: its vocabulary, rows into rounds, assessments into what is shown and stored."""
