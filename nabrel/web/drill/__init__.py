"""The Drill room: exercises asked one by one, and marked by what would follow."""
