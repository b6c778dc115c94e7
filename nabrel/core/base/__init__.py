"""What lies on the skin, built step by step, and what follows from it alone."""
