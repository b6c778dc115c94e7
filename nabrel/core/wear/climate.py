"""The day it is worn on: what warmth and humidity do to oil and to setting."""

from __future__ import annotations

from nabrel.core.case.intent import Climate
from nabrel.core.house import House

LEAST_OIL, LEAST_SETTING = 0.1, 0.5
"""However cold, or dry, it is: a tenth of the oil, half of the time."""
USUAL_HUMIDITY = 50.0
"""Films were timed at this humidity, in per cent."""


def climate_oil(climate: Climate, house: House) -> float:
    """Factor on the oil that skin gives off on a day like this, 1 at 22 °C; never below a tenth."""
    return max(LEAST_OIL, 1.0 + house.oil_per_degree * (climate.temperature_c - house.oil_calm_c))


def climate_setting(climate: Climate, house: House) -> float:
    """Factor on the time films take to set, 1 at 50 % humidity; never below a half."""
    return max(LEAST_SETTING, 1.0 + house.humidity_slows * (climate.humidity_percent - USUAL_HUMIDITY) / 100.0)
