"""Constants of the normal distribution."""

from __future__ import annotations

Z90 = 1.6448536269514722
"""Standard deviations to either side of the mean that hold the middle 90 %."""
SD_FROM_MAD = 1.4826
"""Standard deviation by the median absolute deviation, a robust estimate: 1 / Z75."""
