"""The day it is worn on: what warmth and humidity do to oil and to setting."""

from __future__ import annotations

from nabrel.core.case.intent import Climate
from nabrel.core.house import House


def climate_oil(climate: Climate, house: House) -> float:
    """Factor on the oil that skin gives off on a day like this, 1 at 22 °C; never below a tenth."""
    return max(0.1, 1.0 + house.oil_per_degree * (climate.temperature_c - house.oil_calm_c))


def climate_setting(climate: Climate, house: House) -> float:
    """Factor on the time films take to set, 1 at 50 % humidity; never below a half."""
    return max(0.5, 1.0 + house.humidity_slows * (climate.humidity_percent - 50.0) / 100.0)
