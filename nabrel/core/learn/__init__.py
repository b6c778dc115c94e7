"""Learning: how bases wore against their forecasts, and what that says of house, zone, sitter, product and school."""
