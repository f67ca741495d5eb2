"""The fields of an intake form, each with what taking it over changes of a client."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable, Sequence
from dataclasses import asdict, dataclass, replace

from yantai.core.foods.allergens import ALLERGENS
from yantai.core.targets.days import ANY_DAY
from yantai.core.targets.forms import FormKind
from yantai.core.targets.targets import FIGURES
from yantai.work.clients.inputs import ClientInput, DayInput, TargetInput
from yantai.work.clients.views import ClientView
from yantai.work.forms.inputs import AnswersInput

_WEEKDAYS = ("Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday")
TRAINING, REST = "training", "rest"


@dataclass(frozen=True, kw_only=True)
class Draft:
    """A client on the way to being saved: as sent, the type of each day of the week, and the room in the fridge [l]."""

    client: ClientInput
    week: tuple[str | None, ...] = ()
    fridge_l: float | None = None

    def changed(self, **values: object) -> Draft:
        """The same with other values of the client."""
        return replace(self, client=self.client.model_copy(update=values))


@dataclass(frozen=True, kw_only=True)
class Field:
    """A field: what was `said` to it, what a client has `now`, and the client once it is taken. What `is_words` may be
    mended by the coach before."""

    key: str
    label: str
    said: Callable[[AnswersInput], str]
    now: Callable[[Draft], str] = lambda _: ""
    take: Callable[[Draft, AnswersInput, str], Draft] | None = None
    is_words: bool = True


def split_words(text: str) -> list[str]:
    """Words apart as people write them: by commas, semicolons, lines.

    >>> split_words("mushrooms, olives; liver.")
    ['mushrooms', 'olives', 'liver']
    """
    return [word.strip(" .\r") for word in re.split(r"[,;\n]", text) if word.strip(" .\r")]


def client_input(view: ClientView) -> ClientInput:
    """A client as it would be sent unchanged."""
    said = {name: value for name, value in asdict(view).items() if name in ClientInput.model_fields}

    def only(
        kind: type[DayInput | TargetInput], one: dict[str, object], without: Iterable[str] = ()
    ) -> dict[str, object]:
        return {name: value for name, value in one.items() if name in kind.model_fields and name not in without}

    # With a share of the day the figures follow from it.
    said["targets"] = [
        only(TargetInput, one, FIGURES if one["day_share"] is not None else ()) for one in said["targets"]
    ]
    said["days"] = [
        {
            **only(DayInput, day),
            "extras": [{"food_id": one["food_id"], "grams": one["grams"]} for one in day["extras"]],
        }
        for day in said["days"]
    ]
    said["at_hand"] = [{name: one[name] for name in ("food_id", "serving_g", "most")} for one in said["at_hand"]]
    return ClientInput.model_validate(said)


def _joined(words: Sequence[str] | None) -> str:
    return ", ".join(words or ())


def _more(had: Sequence[str], text: str) -> list[str]:
    known = {word.casefold() for word in had}
    return [*had, *dict.fromkeys(word for word in split_words(text) if word.casefold() not in known)]


def _added(had: str, text: str) -> str:
    """A note with some lines more; lines that stand there already are not said twice."""
    there = {line.strip() for line in had.splitlines()}
    return "\n".join([*([had] if had else []), *(line for line in text.splitlines() if line.strip() not in there)])


def _allergen_names(keys: Iterable[str]) -> str:
    return ", ".join(ALLERGENS[key] for key in sorted(keys) if key in ALLERGENS)


def _meals(targets: Sequence[TargetInput]) -> str:
    return ", ".join(
        f"{one.slot} ({one.capacity_ml:g} ml)" if one.capacity_ml is not None else one.slot for one in targets
    )


def _said_meals(answers: AnswersInput) -> str:
    meals = [meal.strip() for meal in answers.meals or () if meal.strip()]
    size = "" if answers.container_ml is None else f"containers of {answers.container_ml:g} ml"
    return "; ".join(part for part in (", ".join(meals), size) if part)


def _take_meals(draft: Draft, answers: AnswersInput, _: str) -> Draft:
    """Meals without a target get one, without figures; where no size of a container was said, theirs is."""
    size = answers.container_ml
    targets = [
        one if one.capacity_ml is not None else one.model_copy(update={"capacity_ml": size})
        for one in draft.client.targets
    ]
    there = {one.slot.casefold() for one in targets}
    for meal in dict.fromkeys(meal.strip() for meal in answers.meals or () if meal.strip()):
        if meal.casefold() not in there:
            targets.append(TargetInput(slot=meal, day_type=ANY_DAY, capacity_ml=size))
    return draft.changed(targets=targets)


def _week(kinds: Sequence[str | None]) -> str:
    days = [day for day, kind in zip(_WEEKDAYS, kinds, strict=False) if kind == TRAINING]
    return f"training on {', '.join(days)}" if days else ("no training day" if any(kinds) else "")


def _said_week(answers: AnswersInput) -> str:
    return "" if answers.training_days is None else _week(_kinds(answers))


def _kinds(answers: AnswersInput) -> tuple[str | None, ...]:
    return tuple(TRAINING if day in (answers.training_days or ()) else REST for day in range(7))


def _litres(litres: float | None) -> str:
    return "" if litres is None else f"{litres:g} l for containers"


def _said_kitchen(answers: AnswersInput) -> str:
    return "\n".join(part for part in (_joined(answers.equipment), (answers.kitchen or "").strip()) if part)


def _said_health(answers: AnswersInput) -> str:
    reasons = [f"{one.what.strip()}: {one.why}" for one in answers.avoid or () if one.what.strip()]
    lines = [*(answers.conditions or ()), (answers.health or "").strip(), *reasons]
    return "\n".join(line for line in lines if line)


INTAKE = (
    Field(
        key="name",
        label="Name",
        said=lambda answers: (answers.name or "").strip(),
        now=lambda draft: draft.client.name,
        take=lambda draft, _, text: draft.changed(name=text),
    ),
    Field(
        key="email",
        label="E-mail address",
        said=lambda answers: answers.email or "",
        now=lambda draft: draft.client.email,
        take=lambda draft, _, text: draft.changed(email=text),
    ),
    Field(
        key="allergens",
        label="Allergens, must not eat",
        said=lambda answers: _allergen_names(answers.allergens or ()),
        now=lambda draft: _allergen_names(draft.client.allergens),
        take=lambda draft, answers, _: draft.changed(
            allergens=sorted({*draft.client.allergens, *(answers.allergens or ())})
        ),
        is_words=False,
    ),
    Field(
        key="exclusions",
        label="Leave out as well",
        said=lambda answers: _joined([one.what.strip() for one in answers.avoid or () if one.what.strip()]),
        now=lambda draft: _joined(draft.client.exclusions),
        take=lambda draft, _, text: draft.changed(exclusions=_more(draft.client.exclusions, text)),
    ),
    Field(
        key="dislikes",
        label="Does not like",
        said=lambda answers: (answers.dislikes or "").strip(),
        now=lambda draft: _joined(draft.client.dislikes),
        take=lambda draft, _, text: draft.changed(dislikes=_more(draft.client.dislikes, text)),
    ),
    Field(
        key="likes",
        label="Likes",
        said=lambda answers: (answers.likes or "").strip(),
        now=lambda draft: _joined(draft.client.likes),
        take=lambda draft, _, text: draft.changed(likes=_more(draft.client.likes, text)),
    ),
    Field(
        key="meals",
        label="Meals and containers",
        said=_said_meals,
        now=lambda draft: _meals(draft.client.targets),
        take=_take_meals,
        is_words=False,
    ),
    Field(
        key="week",
        label="Week",
        said=_said_week,
        now=lambda draft: _week(draft.week),
        take=lambda draft, answers, _: replace(draft, week=_kinds(answers)),
        is_words=False,
    ),
    Field(
        key="fridge",
        label="Room in the fridge",
        said=lambda answers: _litres(answers.fridge_l),
        now=lambda draft: _litres(draft.fridge_l),
        take=lambda draft, answers, _: replace(draft, fridge_l=answers.fridge_l),
        is_words=False,
    ),
    Field(
        key="kitchen",
        label="Kitchen",
        said=_said_kitchen,
        now=lambda draft: draft.client.kitchen,
        take=lambda draft, _, text: draft.changed(kitchen=_added(draft.client.kitchen, text)),
    ),
    Field(
        key="goals",
        label="Goals in their words",
        said=lambda answers: (answers.goals or "").strip(),
        now=lambda draft: draft.client.goals,
        take=lambda draft, _, text: draft.changed(goals=_added(draft.client.goals, text)),
    ),
    Field(
        key="health",
        label="Health, and why something is not eaten",
        said=_said_health,
        now=lambda draft: draft.client.health,
        take=lambda draft, _, text: draft.changed(health=_added(draft.client.health, text)),
    ),
)
"""What is taken over of an intake form. Body figures are not kept: what is suggested by them is."""

HOW_WAS_IT = (
    Field(key="enough", label="How much it was", said=lambda answers: answers.enough or ""),
    Field(key="again", label="What again, what not", said=lambda answers: (answers.again or "").strip()),
    Field(key="how_week", label="How the week went", said=lambda answers: (answers.week or "").strip()),
)
"""The three questions of how it was: they are read."""

FIELDS = {FormKind.INTAKE: INTAKE, FormKind.HOW_WAS_IT: HOW_WAS_IT}
