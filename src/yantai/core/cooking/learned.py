"""What a kitchen has learned of a yield: few measurements lean on the prior, many stand on their own."""

from __future__ import annotations

import math
import statistics
from collections.abc import Sequence
from dataclasses import dataclass

from yantai.core.cooking.yields import MAXIMUM_YIELD, YieldRange, YieldSource
from yantai.core.errors import require_range

RANGE_Z = 2.326
"""A yield's range is read as the middle 98 % of a log-normal, 2.326 standard deviations to either side: what lies
outside is questioned at the scale, so it has to hold nearly every honest pan."""
PAN_TO_PAN = 0.05
"""Standard deviation of ln Y from pan to pan of one food and method in one kitchen, before any is known:
two of three pans of roasted chicken in one kitchen keep 71 to 78 %."""
PAN_TO_PAN_WEIGHT = 4.0
"""How many measurements the value above is worth against the spread that the kitchen shows."""
NARROWEST_PRIOR = 0.02
HUBER = 1.5
"""Deviations beyond 1.5 standard deviations count less and less (P. J. Huber, Robust Statistics, 1981)."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Learned:
    """An estimate of Y from a prior and measurements.

    Attributes:
        count: measurements.
        estimate: the yield to expect, with the range of the next pan.
        weights: how much each measurement counted, 1 for a plain one and near 0 for a slip.
        prior_share: how much of the estimate still is the prior.
    """

    count: int
    estimate: YieldRange
    weights: tuple[float, ...]
    prior_share: float


def learn(prior: YieldRange, measured: Sequence[float]) -> Learned:
    """Shrink `measured` yields [g/g] to `prior`.

    On x = ln Y the prior is normal with mean m and standard deviation t, read off its range; a pan is normal
    around the kitchen's own mean with standard deviation s. With Huber weights w the posterior is

        mean = (m / t² + Σ w x / s²) / (1 / t² + Σ w / s²),   variance = 1 / (1 / t² + Σ w / s²)

    (A. Gelman et al., Bayesian Data Analysis, 3rd edition, section 2.5, with weights in place of counts.) The
    weights come from the distance to the median of the measurements and the prior, so one mistyped weighing
    hardly moves it. The mean is a weighted mean with weights of 0 or more, so it lies between prior and data;
    as pans come in, the prior's part goes to nothing. The range is that of the next pan: ± 2.326 √(variance + s²), with
    s as it is for so few pans.

    Raises:
        OutOfRange: a measured yield is none.
    """
    for value in measured:
        require_range("yield", value, low=0.01, high=MAXIMUM_YIELD, unit="g cooked per g edible")
    if not measured:
        return Learned(count=0, estimate=prior, weights=(), prior_share=1.0)
    centre = max(prior.expected, 0.01)
    mean = math.log(centre)
    low, high = math.log(max(prior.low, centre / 3, 0.01)), math.log(max(prior.high, centre))
    spread = max((high - low) / (2 * RANGE_Z), NARROWEST_PRIOR)
    logs = [math.log(value) for value in measured]
    middle = statistics.median([*logs, mean])
    pan = _pan_to_pan(logs)
    # A measurement may differ by pan and, while few are known, by how far this kitchen is from the prior.
    reach = math.hypot(pan, spread / math.sqrt(len(logs)))
    weights = tuple(_huber(abs(x - middle) / reach) for x in logs)
    own, of_prior = sum(weights) / pan**2, 1 / spread**2
    learned = (mean * of_prior + sum(w * x for w, x in zip(weights, logs, strict=True)) / pan**2) / (own + of_prior)
    half = RANGE_Z * math.sqrt(1 / (own + of_prior) + _next_pan(logs) ** 2)
    return Learned(
        count=len(logs),
        estimate=YieldRange(
            low=math.exp(learned - half),
            expected=min(math.exp(learned), MAXIMUM_YIELD),
            high=min(math.exp(learned + half), MAXIMUM_YIELD),
            source=YieldSource.MEASURED,
            note=f"{len(logs)} {'pan' if len(logs) == 1 else 'pans'}, with {prior.source.value} {prior.expected:.2f}",
        ),
        weights=weights,
        prior_share=of_prior / (own + of_prior),
    )


def _pan_to_pan(logs: Sequence[float], of_few: float = 1.0) -> float:
    """Standard deviation between pans: the kitchen's own, robustly, blended with `PAN_TO_PAN`."""
    if len(logs) < 2:
        return PAN_TO_PAN
    # 1.4826 turns the median absolute deviation of a normal into its standard deviation.
    own = of_few * 1.4826 * statistics.median(abs(x - statistics.median(logs)) for x in logs)
    return math.sqrt((PAN_TO_PAN_WEIGHT * PAN_TO_PAN**2 + len(logs) * own**2) / (PAN_TO_PAN_WEIGHT + len(logs)))


_OF_FEW = {2: 1.196, 3: 1.495, 4: 1.363, 5: 1.206, 6: 1.200, 7: 1.140, 8: 1.129, 9: 1.107}


def _next_pan(logs: Sequence[float]) -> float:
    """By how much the next pan will spread: the median absolute deviation of few values comes out low, and is made good
    (C. Croux and P. J. Rousseeuw, Time-efficient algorithms for two highly robust estimators of scale, 1992)."""
    count = len(logs)
    return _pan_to_pan(logs, _OF_FEW.get(count, count / (count - 0.8)))


def _huber(deviations: float) -> float:
    """Huber's weight squared: 1 within `HUBER` standard deviations; beyond, falling faster than his own, so that a slip
    is near 0."""
    return 1.0 if deviations <= HUBER else (HUBER / deviations) ** 2
