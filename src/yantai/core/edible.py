"""From what was bought to what goes in the pan, and back."""

from __future__ import annotations

from yantai.core.errors import require_range

MAXIMUM_REFUSE_SHARE = 0.95


def edible_g(purchased_g: float, refuse_share: float) -> float:
    """Edible portion [g] of `purchased_g` [g] as purchased: `EP = AP × (1 - refuse)`.

    `refuse_share` is the share that is trimmed, peeled, boned or drained off, from 0 to 0.95.

    >>> round(edible_g(2400, 0.06), 6)
    2256.0
    """
    require_range("refuse_share", refuse_share, low=0, high=MAXIMUM_REFUSE_SHARE, unit="of the purchased weight")
    return purchased_g * (1 - refuse_share)


def purchased_g(edible: float, refuse_share: float) -> float:
    """Weight to buy [g] so that `edible` [g] are left: `AP = EP / (1 - refuse)`.

    >>> round(purchased_g(2256, 0.06), 6)
    2400.0
    """
    require_range("refuse_share", refuse_share, low=0, high=MAXIMUM_REFUSE_SHARE, unit="of the purchased weight")
    return edible / (1 - refuse_share)
