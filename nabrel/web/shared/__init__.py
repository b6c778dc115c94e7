"""What all rooms share."""
