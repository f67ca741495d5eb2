"""Suggested targets of a day, for one container of it. Nothing that is asked about a body is kept or logged."""

from __future__ import annotations

from yantai.core.targets.suggestions import Person, referrals, suggest
from yantai.work.clients.inputs import SuggestionInput
from yantai.work.clients.views import MacroFigures, SuggestionView
from yantai.work.common.errors import located


def suggest_day(payload: SuggestionInput) -> SuggestionView:
    """Targets of a day with every formula, or the referral where none may be suggested.

    Raises:
        Invalid: a figure makes no sense.
    """
    with located(""):
        person = Person(
            sex=payload.sex,
            age_y=payload.age_y,
            height_cm=payload.height_cm,
            weight_kg=payload.weight_kg,
            activity=payload.activity,
            body_fat_share=payload.body_fat_share,
            conditions=frozenset(payload.conditions),
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
            change_share=payload.change_share,
            protein_g_per_kg=payload.protein_g_per_kg,
            fat_g_per_kg=payload.fat_g_per_kg,
        )
    day = MacroFigures(
        kcal=found.kcal, protein_g=found.protein_g, carbohydrate_g=found.carbohydrate_g, fat_g=found.fat_g
    )
    container = MacroFigures(
        kcal=round(found.kcal * payload.share),
        protein_g=round(found.protein_g * payload.share),
        carbohydrate_g=round(found.carbohydrate_g * payload.share),
        fat_g=round(found.fat_g * payload.share),
    )
    return SuggestionView(
        referral=None, steps=list(found.steps), warnings=list(found.warnings), day=day, container=container
    )
