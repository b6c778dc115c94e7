"""The Class room: what is taught to a room, how it goes, and what it takes."""
