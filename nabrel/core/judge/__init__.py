"""The rule book: what is found in a plan, with reasons and ways out."""
