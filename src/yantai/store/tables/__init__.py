"""The tables, by room. Every row belongs to a workspace; shared reference rows have none and are read-only."""

from yantai.store.tables.accounts import Account, LoginSession, Pairing, Receipt
from yantai.store.tables.base import Base, HasFigures, Owned, Row
from yantai.store.tables.batches import (
    Batch,
    Command,
    ContainerClass,
    Dish,
    KeptAnswer,
    Part,
    Pin,
    StoredPlan,
    Weighing,
)
from yantai.store.tables.clients import AtHand, Client, Day, DayExtra, Target, TargetRecord
from yantai.store.tables.containers import ContainerEntry, ContainerKind
from yantai.store.tables.cooking import (
    CalendarFeed,
    CookDay,
    CookFact,
    CookOrder,
    Kitchen,
    KitchenItem,
    KitchenPerson,
    Presence,
    StepTime,
)
from yantai.store.tables.filling import FillFact
from yantai.store.tables.forms import ClientForm
from yantai.store.tables.handover import (
    ClientLink,
    ClientWord,
    EatingFact,
    EatingStart,
    Placement,
    PrintJob,
    ShelfChoice,
)
from yantai.store.tables.house import Lot, LotEntry, PriceSeen, Staple, Trip, TripBatch, TripEntry
from yantai.store.tables.instruments import Instrument
from yantai.store.tables.kitchen import Vessel, Workspace
from yantai.store.tables.outbox import Message, MessageTemplate
from yantai.store.tables.pantry import (
    EdiblePortion,
    Food,
    FoodWord,
    Measure,
    Pack,
    RawCookedPair,
    ReferenceLoad,
    YieldFactor,
)
from yantai.store.tables.recipes import Component, Line, Recipe, Step
from yantai.store.tables.surveys import Survey, SurveyAnswer, SurveyPart

__all__ = [
    "Account",
    "AtHand",
    "Base",
    "Batch",
    "CalendarFeed",
    "Client",
    "ClientForm",
    "ClientLink",
    "ClientWord",
    "Command",
    "Component",
    "ContainerClass",
    "ContainerEntry",
    "ContainerKind",
    "CookDay",
    "CookFact",
    "CookOrder",
    "Day",
    "DayExtra",
    "Dish",
    "EatingFact",
    "EatingStart",
    "EdiblePortion",
    "FillFact",
    "Food",
    "FoodWord",
    "HasFigures",
    "Instrument",
    "KeptAnswer",
    "Kitchen",
    "KitchenItem",
    "KitchenPerson",
    "Line",
    "LoginSession",
    "Lot",
    "LotEntry",
    "Measure",
    "Message",
    "MessageTemplate",
    "Owned",
    "Pack",
    "Pairing",
    "Part",
    "Pin",
    "Placement",
    "Presence",
    "PriceSeen",
    "PrintJob",
    "RawCookedPair",
    "Receipt",
    "Recipe",
    "ReferenceLoad",
    "Row",
    "ShelfChoice",
    "Staple",
    "Step",
    "StepTime",
    "StoredPlan",
    "Survey",
    "SurveyAnswer",
    "SurveyPart",
    "Target",
    "TargetRecord",
    "Trip",
    "TripBatch",
    "TripEntry",
    "Vessel",
    "Weighing",
    "Workspace",
    "YieldFactor",
]
