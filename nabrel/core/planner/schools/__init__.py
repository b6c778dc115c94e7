"""The schools of order, one module each: what comes in which order, why, and what it demands."""
