"""The rules of the job: pure computation, without I/O, clock, database or interface.

It is installed and used alone as `yantai-core` (packaging/core). What is named here is what others may build on:

>>> held = dict.fromkeys(NUTRIENTS, 0.0) | {Nutrient.KCAL: 360, Nutrient.CARBOHYDRATE: 79, Nutrient.PROTEIN: 7}
>>> cooks = YieldRange(low=2.8, expected=3, high=3.2, source=YieldSource.COACH)
>>> rice = Line(name="rice", purchased_g=500, composition=Amounts(tuple(held.values())), yield_range=cooks)
>>> pot = Part(component=Component(name="Rice", lines=(rice,)), share=1500)
>>> lunch = ContainerClass(target=Target(carbohydrate_g=60), tolerance=Tolerance(), count=5)
>>> answer = plan(one_dish({"rice": pot}), [lunch], step_g=5)
>>> answer.portions[0].grams, answer.all_met
((230.0,), True)
"""

from yantai.core.cooking.components import Component, Line
from yantai.core.cooking.yields import YieldRange, YieldSource
from yantai.core.errors import CoreError
from yantai.core.foods.nutrients import NUTRIENTS, Amounts, Nutrient
from yantai.core.planning.dishes import ContainerClass, Dish, Part, one_dish
from yantai.core.planning.plan import ENGINE, Leftover, Plan, plan
from yantai.core.planning.portioning import School
from yantai.core.portions import Portions, Sharing
from yantai.core.targets.targets import Target, Tolerance

__all__ = [
    "ENGINE",
    "NUTRIENTS",
    "Amounts",
    "Component",
    "ContainerClass",
    "CoreError",
    "Dish",
    "Leftover",
    "Line",
    "Nutrient",
    "Part",
    "Plan",
    "Portions",
    "School",
    "Sharing",
    "Target",
    "Tolerance",
    "YieldRange",
    "YieldSource",
    "one_dish",
    "plan",
]
