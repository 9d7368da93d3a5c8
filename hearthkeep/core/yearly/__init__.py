"""A weather year on the design: the sun by month, the house living on it alone, and the quick sum beside it."""

from hearthkeep.core.yearly.array_sizes import ArraySum, quick_array_w
from hearthkeep.core.yearly.year import ArrayYear, SunYear, YearHours, sun_year, year_hours

__all__ = ["ArraySum", "ArrayYear", "SunYear", "YearHours", "quick_array_w", "sun_year", "year_hours"]
