"""Planning: steps, the schools of order, what lies on each zone after every step, and edits as values."""
