"""Findings about the weather the design is proved against."""

from __future__ import annotations

from collections.abc import Iterator

from hearthkeep.core.checks.finding import Change, Evidence, Finding, Remedy, Severity, Step
from hearthkeep.core.design import SkySource
from hearthkeep.core.practice import distance_text, height_text

#: Weather from further away, or from another height, is another climate. Our assumption.
FAR_KM, HEIGHT_M = 120.0, 400.0


def made_up(evidence: Evidence) -> Iterator[Finding]:
    """Skies that nobody measured."""
    design = evidence.design
    if design.outage.sky_from is not SkySource.YEAR:
        return
    by_hand = Remedy(label="Try the skies set by hand", changes=(Change(path="outage.sky_from", value="by_hand"),))
    if design.site.weather_year is not None and evidence.year is None:
        yield Finding(
            code="WEATHER_MISSING",
            severity=Severity.MEND,
            step=Step.STORM,
            title="The weather year is not stored here",
            message="The design names a weather year that this store does not hold; the made-up one stands in. Load its EPW or TMY3 "
            "file on the Charging page; where it is stored, that page gives it out as EPW.",
            basis="The store's own list",
            remedy=by_hand,
        )
    elif evidence.year is None:
        yield Finding(
            code="WEATHER_MADE_UP",
            severity=Severity.MIND,
            step=Step.STORM,
            title="The skies are made up",
            message="The weather year that ships with the application is invented, with snowy winters, under the true sun of the site. "
            "Load an EPW or TMY3 file of a station nearby before trusting it.",
            basis="Skies from a fixed seed; clear-sky sun by Ineichen and Perez",
            remedy=by_hand,
        )


def far_away(evidence: Evidence) -> Iterator[Finding]:
    """A station in another climate."""
    year, site = evidence.year, evidence.design.site
    if year is None:
        return
    height_m = abs(year.elevation_m - site.elevation_m)
    if evidence.year_distance_km <= FAR_KM and height_m <= HEIGHT_M:
        return
    yield Finding(
        code="WEATHER_FAR",
        severity=Severity.MIND,
        step=Step.STORM,
        title="The weather is from somewhere else",
        message=f"{year.name} lies {distance_text(evidence.design, evidence.year_distance_km)} away and "
        f"{height_text(evidence.design, height_m)} higher or lower than the site.",
        basis="Great-circle distance of the file's place; our assumption of what is near",
        remedy=Remedy(label="Try the made-up year", changes=(Change(path="site.weather_year", value=None),)),
    )


CHECKS = (made_up, far_away)
