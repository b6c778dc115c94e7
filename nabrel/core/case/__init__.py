"""What a plan starts from: the sitter, what is wanted, and the kit, as frozen values."""
