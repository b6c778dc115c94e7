"""Drills: exercises whose answers the core computes, marked by what would follow."""
