"""Suggested targets of a day, for one container of it. Nothing that is asked about a body is kept or logged."""

from __future__ import annotations

from yantai.core.errors import require_range
from yantai.core.suggestions import Condition, Person, Sex, referrals, suggest
from yantai.work.errors import located
from yantai.work.inputs import SuggestionInput
from yantai.work.views import MacroFigures, SuggestionView


def suggest_day(given: SuggestionInput) -> SuggestionView:
    """Targets of a day with every formula, or the referral where none may be suggested.

    Raises:
        Invalid: a figure makes no sense.
    """
    with located(""):
        require_range("share", given.share, low=0.05, high=1, unit="of the day")
        person = Person(
            sex=Sex(given.sex),
            age_y=given.age_y,
            height_cm=given.height_cm,
            weight_kg=given.weight_kg,
            activity=given.activity,
            body_fat_share=given.body_fat_share,
            conditions=frozenset(Condition(one) for one in given.conditions),
        )
    refused = referrals(person)
    if refused:
        return SuggestionView(
            referral=f"No targets are suggested: {', '.join(refused)}. This belongs to a doctor or a registered "
            "dietitian. You can enter what they set, and record who signed it off.",
            steps=[],
            warnings=[],
            day=None,
            container=None,
        )
    with located(""):
        found = suggest(
            person,
            change_share=given.change_share,
            protein_g_per_kg=given.protein_g_per_kg,
            fat_g_per_kg=given.fat_g_per_kg,
        )
    day = MacroFigures(
        kcal=found.kcal, protein_g=found.protein_g, carbohydrate_g=found.carbohydrate_g, fat_g=found.fat_g
    )
    container = MacroFigures(
        kcal=round(found.kcal * given.share),
        protein_g=round(found.protein_g * given.share),
        carbohydrate_g=round(found.carbohydrate_g * given.share),
        fat_g=round(found.fat_g * given.share),
    )
    return SuggestionView(
        referral=None, steps=list(found.steps), warnings=list(found.warnings), day=day, container=container
    )
