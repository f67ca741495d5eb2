"""Lines and components as they are stored or as they were sent, in the core's words."""

from __future__ import annotations

import uuid
from collections.abc import Sequence
from typing import Protocol

from yantai.core.cooking.cookbook import WrittenComponent, WrittenLine
from yantai.core.cooking.liquids import Lid


class LineLike(Protocol):
    """A line as it is stored or as it was sent."""

    @property
    def food_id(self) -> uuid.UUID | None: ...  # noqa: D102
    @property
    def source_id(self) -> uuid.UUID | None: ...  # noqa: D102
    @property
    def purchased_g(self) -> float: ...  # noqa: D102
    @property
    def refuse_share(self) -> float: ...  # noqa: D102
    @property
    def refuse_after(self) -> bool: ...  # noqa: D102
    @property
    def retained_share(self) -> float: ...  # noqa: D102
    @property
    def yield_factor(self) -> float | None: ...  # noqa: D102
    @property
    def counted(self) -> bool: ...  # noqa: D102
    @property
    def scales(self) -> bool: ...  # noqa: D102
    @property
    def unfolded(self) -> bool: ...  # noqa: D102
    @property
    def text(self) -> str: ...  # noqa: D102
    @property
    def weighed_state(self) -> str: ...  # noqa: D102
    @property
    def dismissed(self) -> dict[str, str]: ...  # noqa: D102


class ComponentLike(Protocol):
    """A component as it is stored or as it was sent."""

    @property
    def id(self) -> uuid.UUID | None: ...  # noqa: D102
    @property
    def name(self) -> str: ...  # noqa: D102
    @property
    def method(self) -> str: ...  # noqa: D102
    @property
    def yield_low(self) -> float | None: ...  # noqa: D102
    @property
    def yield_expected(self) -> float | None: ...  # noqa: D102
    @property
    def yield_high(self) -> float | None: ...  # noqa: D102
    @property
    def poured_fat_g(self) -> float: ...  # noqa: D102
    @property
    def pieces(self) -> int | None: ...  # noqa: D102
    @property
    def lid(self) -> Lid: ...  # noqa: D102
    @property
    def cook_min(self) -> float | None: ...  # noqa: D102
    @property
    def dismissed(self) -> dict[str, str]: ...  # noqa: D102
    @property
    def lines(self) -> Sequence[LineLike]: ...  # noqa: D102


def history_key(component: ComponentLike) -> uuid.UUID | None:
    """The recipe component whose history a component shares: its own, or the one it was copied from."""
    copied: uuid.UUID | None = getattr(component, "recipe_component_id", None)
    return copied or component.id


def written_line(line: LineLike) -> WrittenLine:
    """A line in the core's words."""
    return WrittenLine(
        food=line.food_id,
        component=line.source_id,
        purchased_g=line.purchased_g,
        refuse_share=line.refuse_share,
        refuse_after=line.refuse_after,
        retained_share=line.retained_share,
        yield_factor=line.yield_factor,
        unfolded=line.unfolded,
        counted=line.counted,
        scales=line.scales,
    )


def written_component(component: ComponentLike) -> WrittenComponent:
    """A component in the core's words."""
    return WrittenComponent(
        key=component.id,
        history=history_key(component),
        name=component.name,
        method=component.method,
        lines=tuple(written_line(line) for line in component.lines),
        yield_low=component.yield_low,
        yield_expected=component.yield_expected,
        yield_high=component.yield_high,
        poured_fat_g=component.poured_fat_g,
        pieces=component.pieces,
        lid=component.lid,
        cook_min=component.cook_min,
    )
