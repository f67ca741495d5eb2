"""What a client is asked in a form, in the words of closed sets."""

from __future__ import annotations

from enum import StrEnum


class FormKind(StrEnum):
    """What a form is for: to get to know a client, or to ask how a week was."""

    INTAKE = "intake"
    HOW_WAS_IT = "how was it"


class Why(StrEnum):
    """Why something must not be eaten."""

    ALLERGY = "allergy"
    INTOLERANCE = "intolerance"
    BELIEF = "belief or conviction"
    ADVICE = "on a doctor’s advice"
    OTHER = "another reason"


class Enough(StrEnum):
    """How a client found the size of what was in the containers."""

    TOO_LITTLE = "too little"
    RIGHT = "just right"
    TOO_MUCH = "too much"


class Equipment(StrEnum):
    """What a client has at home to keep food and warm it up with."""

    FREEZER = "freezer"
    MICROWAVE = "microwave"
    OVEN = "oven"
    HOB = "hob"
    SCALE = "kitchen scale"


class Activity(StrEnum):
    """How a client's days are, in words that stand for a factor of activity."""

    SITTING = "mostly sitting, little sport"
    LIGHT = "sport once or twice a week"
    MODERATE = "sport three to five times a week"
    HARD = "hard training nearly every day"


ACTIVITY_FACTOR = {Activity.SITTING: 1.2, Activity.LIGHT: 1.375, Activity.MODERATE: 1.55, Activity.HARD: 1.725}
"""Maintenance energy over resting energy: the customary steps that go with the resting energy of Mifflin and St Jeor.

They are steps for a conversation, no measurement: a coach sets another factor where they know better.
"""


def age_on(birthday: tuple[int, int, int], today: tuple[int, int, int]) -> int:
    """Full years of age on a day, both as (year, month, day).

    >>> age_on((2008, 11, 29), (2026, 11, 28))
    17
    >>> age_on((2008, 2, 29), (2026, 2, 28))
    17
    """
    return today[0] - birthday[0] - (today[1:] < birthday[1:])
