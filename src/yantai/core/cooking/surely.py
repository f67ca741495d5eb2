"""How sure it is that a pot suffices, from how far the yield of a pan spreads."""

from __future__ import annotations

import math
from statistics import NormalDist

from yantai.core.cooking.learned import RANGE_Z
from yantai.core.errors import require_range

LEAST_SURE, MOST_SURE = 0.5, 0.995
_STANDARD = NormalDist()


def spread(expected_g: float, low_g: float) -> float:
    """Standard deviation of the logarithm of a cooked weight, from what is expected and its low end [g].

    The cooked weight of the next pan is taken as log-normal: the expected one is its median, and the low end of its
    range the weight that 99 pans of 100 exceed, as `learn` makes its range (A. Gelman et al., Bayesian Data Analysis,
    3rd edition, section 2.5: the predictive distribution of a normal mean, here of ln Y). Ranges of published factors
    are read the same way, which `learn` does too. Several foods in one pan go up and down together: their low ends add.

    >>> round(spread(750, 750 / math.exp(2.326 * 0.05)), 6)
    0.05
    """
    if expected_g <= 0 or low_g >= expected_g:
        return 0.0
    return math.log(expected_g / max(low_g, 1e-6 * expected_g)) / RANGE_Z


def sure_factor(expected_g: float, low_g: float, share: float) -> float:
    """How much more than by the expected yield is cooked, so that it suffices with the probability `share`.

    `P(factor × X ≥ expected) = share` for log-normal X, so `factor = exp(z σ)` with z the quantile of the standard
    normal distribution. Example: σ = 0.05 and nine times in ten (z = 1.2816) give exp(0.06408) = 1.0662.

    >>> round(sure_factor(750, 750 / math.exp(2.326 * 0.05), 0.9), 4)
    1.0662
    """
    require_range("sure_share", share, low=LEAST_SURE, high=MOST_SURE, unit="of the times")
    return math.exp(_STANDARD.inv_cdf(share) * spread(expected_g, low_g))


def enough_share(expected_g: float, low_g: float, needed_g: float) -> float:
    """With which probability a pot of which `expected_g` are expected gives at least `needed_g` [g].

    `P(X ≥ needed) = Φ(ln(expected / needed) / σ)`; a pot whose weight does not spread gives it, or not.

    >>> round(enough_share(1.0662 * 750, 1.0662 * 750 / math.exp(2.326 * 0.05), 750), 3)
    0.9
    """
    if needed_g <= 0:
        return 1.0
    if expected_g <= 0:
        return 0.0
    sigma = spread(expected_g, low_g)
    if sigma == 0:
        return 1.0 if expected_g >= needed_g * (1 - 1e-9) else 0.0
    return _STANDARD.cdf(math.log(expected_g / needed_g) / sigma)
