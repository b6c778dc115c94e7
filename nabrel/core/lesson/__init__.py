"""A lesson: one plan taught to a room, in blocks that are demonstrated, practised and checked, with what it takes."""
