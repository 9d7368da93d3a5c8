"""Make the invented weather year that ships with the application: one line a day, from a fixed seed.

Skies follow one another by chance (a day is likely to be like the one before), with dark winters; snow falls on cold
overcast days and melts above freezing. Nothing of it is measured anywhere.
"""

from __future__ import annotations

import csv
import math
import random
from pathlib import Path

TARGET = Path(__file__).resolve().parents[1] / "hearthkeep" / "core" / "charging" / "made_up_year.csv"
SEED = 1204
#: Chance of a clear and of an overcast day when nothing is known of the day before, January first.
CLEAR = (0.22, 0.26, 0.30, 0.34, 0.38, 0.44, 0.50, 0.48, 0.44, 0.36, 0.22, 0.18)
OVERCAST = (0.50, 0.44, 0.38, 0.34, 0.28, 0.20, 0.16, 0.18, 0.24, 0.34, 0.48, 0.54)
LIKE_YESTERDAY = 0.45
DAYS_IN_MONTH = (31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31)


def made_up_days() -> list[dict[str, str | float]]:
    chance = random.Random(SEED)
    months = [month for month, count in enumerate(DAYS_IN_MONTH) for _ in range(count)]
    sky, snow_cm, drift = "overcast", 12.0, 0.0
    rows: list[dict[str, str | float]] = []
    for day, month in enumerate(months):
        if chance.random() > LIKE_YESTERDAY:
            draw = chance.random()
            sky = "clear" if draw < CLEAR[month] else "overcast" if draw > 1 - OVERCAST[month] else "broken"
        drift = 0.75 * drift + chance.gauss(0, 2.6)
        mean_c = 7.5 - 13.5 * math.cos(2 * math.pi * (day - 18) / 365) + drift
        swing_c = {"clear": 6.5, "broken": 4.5, "overcast": 2.2}[sky]
        low_c, high_c = round(mean_c - swing_c, 1), round(mean_c + swing_c, 1)
        fresh = chance.uniform(2, 11) if sky == "overcast" and mean_c < 0 and chance.random() < 0.4 else 0.0
        snow_cm = max(0.0, snow_cm + fresh - max(0.0, high_c) * 1.4)
        rows.append(
            {
                "day": day + 1,
                "sky": sky,
                "low_c": low_c,
                "high_c": high_c,
                "wind_m_s": round(
                    max(0.4, 3.6 - 0.9 * math.sin(2 * math.pi * (day - 110) / 365) + chance.gauss(0, 1.3)), 1
                ),
                "snow_cm": round(snow_cm, 1),
            }
        )
    return rows


def main() -> None:
    rows = made_up_days()
    with TARGET.open("w", encoding="utf-8", newline="") as file:
        writer = csv.DictWriter(file, list(rows[0]), lineterminator="\n")
        writer.writeheader()
        writer.writerows(rows)
    print(f"{TARGET.name}: {len(rows)} days")


if __name__ == "__main__":
    main()
