"""Files: every format that Nabrel reads and writes, its models, and the one place where they become core values."""
