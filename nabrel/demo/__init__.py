"""The made-up scenario that ships with the application: an evening course at Kestrel Quay."""
