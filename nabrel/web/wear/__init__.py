"""The Wear room: how bases lasted, and what that teaches."""
