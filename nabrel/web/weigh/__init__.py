"""The Weigh room."""
