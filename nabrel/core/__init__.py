"""The trade itself: pure functions over frozen values, with no files, no clock and no interface code."""
