"""What a person asks of a plan."""
