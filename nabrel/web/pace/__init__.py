"""The Pace room over HTTP."""
