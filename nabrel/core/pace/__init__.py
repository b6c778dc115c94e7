"""Pace: what the hands do when. The tasks of a plan, the shortest order of them, and why there is none."""
