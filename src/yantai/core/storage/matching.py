"""Which rows of the shelf-life table a component goes by: by its foods, how it is cooked, and what is mixed in it."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from math import fsum

from yantai.core.cooking.components import UNCOOKED, Role
from yantai.core.storage.shelf import Freezes, ShelfRow

PEELED_EGGS, BANANA_OATS = "hard-boiled eggs, peeled", "overnight oats with raw banana"
FROM_NOTES: Sequence[ShelfRow] = (
    ShelfRow(
        category=PEELED_EGGS,
        cautious_days=2,
        usual_days=2,
        freezer_months=0,
        freezes=Freezes.NO,
        note="in their shell they keep 5 days",
    ),
    ShelfRow(
        category=BANANA_OATS,
        cautious_days=1,
        usual_days=2,
        freezer_months=1,
        freezes=Freezes.WITH_CARE,
        note="add the banana on the day and they keep 3 days",
    ),
)
"""Rows that the notes of the table's rows on boiled eggs and on overnight oats give."""

_SUBSTANTIAL, _DELICATE = 0.10, 0.02
_WET = frozenset({"simmered", "braised", "slow-cooked", "pressure-cooked", "boiled", "poached", "steeped"})
_STEWED = frozenset({"simmered", "braised", "slow-cooked", "pressure-cooked"})
_BAKED = frozenset({"baked", "roasted", "air-fried"})
_PANNED = frozenset({"pan-fried", "sauteed", "stir-fried", "grilled", "toasted"})
_MEATS = ("poultry", "beef", "pork", "lamb-game")
_GROUND = r"ground|mince|patties|meatballs?|meatloaf|sausage|bratwurst"
_SHELLFISH = r"shrimp|prawn|crab|scallop|mussel|clam|squid|lobster|oyster(?! sauce)"
_LEAVES = r"arugula|rocket|lettuce|spinach|kale|chard|collard|leaves|cress|bean sprouts|pak choi|napa"
_SOFT = r"onion|tomato|cucumber|shallot|scallion|zucchini|courgette|mushroom|eggplant|aubergine"
_TUBERS = r"potato|cassava|plantain|yam\b"
_LEFT_ALONE = r"nori|dried|sun-dried(?!, in oil)"
_DRY_FRUIT = r"dried|dates|prunes|raisins|juice|peel"
_DRESSING = r"mayonnaise|vinaigrette|dressing|oil\b|vinegar|yogurt|sour cream|skyr|crème|yoghurt"


@dataclass(frozen=True, slots=True, kw_only=True)
class Content:
    """A food in a component: its name, group, state and grams as it goes in."""

    name: str
    group: str
    state: str
    grams: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Stuff:
    """What a component is: what goes in, its role, how it is cooked, and whether it is packed raw for later."""

    contents: tuple[Content, ...]
    role: Role
    method: str
    packed_raw: bool = False

    @property
    def grams(self) -> float:
        """What all of it weighs as it goes in, without water."""
        return fsum(one.grams for one in self.contents if one.group != "water") or 1.0

    @property
    def moist_share(self) -> float:
        """The share of water and juice in all of it."""
        moist = fsum(one.grams for one in self.contents if one.group == "water" or "juice" in one.name.casefold())
        return moist / (fsum(one.grams for one in self.contents) or 1.0)

    def share(self, *groups: str, named: str = "", unnamed: str = "") -> float:
        """The share of the foods of these groups, or of any, whose names have one of the words, or none of others."""
        return fsum(one.grams for one in self.contents if _is(one, groups, named, unnamed)) / self.grams


@dataclass(frozen=True, slots=True, kw_only=True)
class Match:
    """A row that a component goes by, and why: `foods` are those that made it, empty where the mixture did."""

    category: str
    foods: tuple[str, ...]
    assumed: bool = False


def match(stuff: Stuff) -> tuple[Match, ...]:
    """The rows that a component goes by; none for what keeps longer than any of them says.

    What is mixed in one pot goes by the row of such mixtures, and by those of the rice, fish and shellfish in it, which
    keep less. What lies side by side, on a tray or in a bowl, goes by the row of each food. `assumed` is what no row
    names: it is taken for the usual cooked meal.

    >>> rice = Content(name="Rice, white", group="grains-pasta", state="dry", grams=500)
    >>> [one.category for one in match(Stuff(contents=(rice,), role=Role.GRAIN, method="boiled"))]
    ['cooked rice']
    """
    assumed = False
    if stuff.packed_raw:
        found = list(_raw(stuff))
    else:
        mixed = _uncooked_mixture(stuff) if stuff.method == UNCOOKED else _cooked_mixture(stuff)
        found = [(category, "") for category in mixed]
        if mixed:
            found += [(row, one.name) for one in _delicate(stuff) for row in [_of_food(one, stuff.method)] if row]
        else:
            # What lies side by side, or is the only food, goes by its own row.
            found = [(row, one.name) for one in _counting(stuff) for row in [_of_food(one, stuff.method)] if row]
    if not found and stuff.moist_share >= _SUBSTANTIAL:
        # What is dry keeps; stirred with water, as tahini for a dressing, it does not.
        found = [(_YOGURT if stuff.method == UNCOOKED else ASSUMED, "")]
        assumed = True
    names: dict[str, list[str]] = {}
    for category, name in found:
        names.setdefault(category, []).extend([name] if name else [])
    return tuple(
        Match(category=category, foods=tuple(dict.fromkeys(names[category])), assumed=assumed or category == ASSUMED)
        for category in names
    )


ASSUMED = "mixed meal box (protein + starch + vegetables)"
"""What a cooked food goes by that no row names."""

WRAP, SANDWICH = "filled burritos and wraps (cooked filling)", "sandwiches with meat egg or fish filling"


def filled_bread(parts: Iterable[Stuff]) -> str | None:
    """The row of bread that is filled in its container, or None: a wrap of what is cooked, a sandwich of what is not.

    Where bread and filling go into one container, the filling softens it and the row of the whole counts too.
    """
    breads: list[Stuff] = []
    fillings: list[Stuff] = []
    for part in parts:
        (breads if part.share("breads-wraps") > 1 / 2 else fillings).append(part)
    if not breads or not any(part.share(*_MEATS, "fish-shellfish", "eggs", "legumes") > 0 for part in fillings):
        return None
    is_flat = any(part.share("breads-wraps", named=r"tortilla|pita|naan|chapati|wrap") > 0 for part in breads)
    return WRAP if is_flat and any(part.method != UNCOOKED for part in fillings) else SANDWICH


def _is(one: Content, groups: Sequence[str], named: str, unnamed: str) -> bool:
    name = one.name.casefold()
    return (
        (not groups or one.group in groups)
        and (not named or re.search(named, name) is not None)
        and (not unnamed or re.search(unnamed, name) is None)
    )


def _counting(stuff: Stuff) -> Iterator[Content]:
    """The foods that decide on their own: no seasoning, and of the rest what there is enough of to matter."""
    usual = [one for one in stuff.contents if one.group != "water"]
    enough = [one for one in usual if one.grams >= _SUBSTANTIAL * stuff.grams]
    if stuff.method != UNCOOKED:
        mains = [one for one in enough if one.group not in ("fats-oils", "sauces-stocks", "herbs-spices")]
        enough = mains or enough
    yield from enough
    for one in _delicate(stuff):
        if one not in enough:
            yield one


def _delicate(stuff: Stuff) -> Iterator[Content]:
    """What keeps less than the mixtures it is in."""
    for one in stuff.contents:
        is_rice = one.group == "grains-pasta" and _is_rice(one)
        if (is_rice or one.group == "fish-shellfish") and one.grams >= _DELICATE * stuff.grams:
            yield one


def _is_rice(one: Content) -> bool:
    name = one.name.casefold()
    return "rice" in name and not re.search(r"noodle|cake|flour", name)


def _raw(stuff: Stuff) -> Iterator[tuple[str, str]]:
    """What is packed raw: with anything on it but salt and spices it marinates."""
    meats = [one for one in stuff.contents if one.group in (*_MEATS, "fish-shellfish")]
    beside = [one for one in stuff.contents if one not in meats and one.state != "dry" and one.grams > 0]
    for one in meats:
        if one.group == "fish-shellfish":
            yield "raw fish", one.name
        elif beside:
            yield "raw marinating meat", one.name
        else:
            is_quick = one.group == "poultry" or _is(one, (), _GROUND, "")
            yield ("raw poultry or ground meat" if is_quick else "raw steaks chops and roasts"), one.name
    if not meats:
        for one in _counting(stuff):
            row = _of_food(one, UNCOOKED)
            if row:
                yield row, one.name


def _cooked_mixture(stuff: Stuff) -> list[str]:
    """The row of a cooked mixture, or none where each food goes by its own."""
    share, method = stuff.share, stuff.method
    meat, legumes = share(*_MEATS), share("legumes", "soy-plant-protein")
    fish = share("fish-shellfish")
    starch = share("grains-pasta", unnamed=r"^oat|noodle.*dry$") + share("potatoes-roots", named=_TUBERS)
    vegetables = share("vegetables", unnamed=r"tomato") + share("potatoes-roots", unnamed=_TUBERS)
    dairy = share("dairy-alternatives")
    flour = share("sweeteners-baking", named=r"flour|semolina")
    oats = share("grains-pasta", named=r"^oat")
    eggs = share("eggs")
    mains = sum(part >= _SUBSTANTIAL for part in (meat, legumes, starch, vegetables))
    if (flour >= 0.15 or oats >= 0.15) and method in _PANNED and eggs + dairy >= _SUBSTANTIAL:
        return ["pancakes and waffles"]
    if (flour >= 0.15 or oats >= 0.15) and method in _BAKED and meat + legumes + vegetables < 0.3:
        return ["muffins and baked oat bars"]
    if oats >= 0.15 and method in (_WET | {"microwaved"}):
        return ["cooked porridge"]
    if eggs >= 0.9 and method in ("boiled", "steamed", "pressure-cooked"):
        return [PEELED_EGGS]
    if eggs >= 0.25 and method in _BAKED | {"steamed"} and meat < eggs:
        return ["egg bakes, frittata and egg muffins"]
    if eggs >= 0.5 and method in _PANNED | {"microwaved"}:
        return ["scrambled eggs"]
    if method in _BAKED and starch >= _SUBSTANTIAL and dairy >= 0.05:
        return ["casseroles, lasagne and pasta bakes"]
    return _pot(stuff, mains=mains, meat=meat, legumes=legumes, starch=starch, fish=fish, dairy=dairy)


def _pot(
    stuff: Stuff, *, mains: int, meat: float, legumes: float, starch: float, fish: float, dairy: float
) -> list[str]:
    """The row of what stands in its liquid: stew, soup, sauce, stock."""
    share, is_wet = stuff.share, stuff.method in _WET
    tomato = share("vegetables", "sauces-stocks", named=r"tomato|salsa|marinara|enchilada")
    stock = share("sauces-stocks", named=r"stock|broth")
    if stuff.role is Role.SAUCE or (is_wet and not mains and not fish and tomato + dairy + stock >= 0.3):
        if meat + fish + legumes < _SUBSTANTIAL:
            if dairy >= _SUBSTANTIAL:
                return ["sauces with dairy, cream or cheese"]
            if tomato >= 0.3:
                return ["tomato sauces"]
            if stock >= 0.8:
                return ["stock and broth"]
            return ["soups, stews and curries"]
        return ["chilli and bean stews" if legumes >= _SUBSTANTIAL else "soups, stews and curries"]
    if not is_wet:
        return []
    if legumes >= _SUBSTANTIAL and (mains >= 2 or tomato >= _SUBSTANTIAL):
        return ["chilli and bean stews"]
    if mains >= 2 or (mains == 1 and tomato + dairy >= _SUBSTANTIAL and starch < 0.5):
        return ["soups, stews and curries"]
    return ["soups, stews and curries"] if fish and mains else []


def _uncooked_mixture(stuff: Stuff) -> list[str]:
    """The row of what is mixed and not cooked, or none where each food goes by its own."""
    share = stuff.share
    oats = share("grains-pasta", named=r"^oat") + share("nuts-seeds", named=r"chia")
    moist = share("dairy-alternatives", unnamed="powder") + share("fruit", named="juice")
    if oats >= 0.05 and moist >= 0.3 and share("vegetables") < _SUBSTANTIAL:
        return [BANANA_OATS if share("fruit", named="banana") >= 0.05 else "overnight oats and chia pots"]
    bound = (
        share("nuts-seeds", named="butter|tahini")
        + share("fruit", named="dates|fig|prune")
        + share("sweeteners-baking", named="honey|syrup")
    )
    dry = share("grains-pasta", named=r"^oat") + share("nuts-seeds", unnamed="butter|tahini") + share("protein-powders")
    if bound >= _SUBSTANTIAL and dry >= 0.2 and moist < _SUBSTANTIAL:
        return ["no-bake protein bars and energy balls"]
    dressing = share("fats-oils", "sauces-stocks", "dairy-alternatives", named=_DRESSING)
    meat = share(*_MEATS, "fish-shellfish", "eggs", "legumes")
    if share("vegetables", unnamed=r"garlic|chilli|ginger") >= 0.4 and dressing >= 0.03 and meat < _SUBSTANTIAL:
        return ["dressed salad or coleslaw"]
    fresh = share("herbs-spices", named="fresh|lemongrass") + share(
        "vegetables", named=r"garlic|chilli|ginger|jalapeno"
    )
    oil = share("fats-oils", unnamed="mayonnaise|butter")
    if oil >= 0.2 and fresh >= 0.01:
        return ["oils or dressings with fresh garlic, herbs or chilli"]
    return []


def _of_food(one: Content, method: str) -> str | None:
    """The row of one food, cooked by `method` or as it is; None for what keeps longer than any row says."""
    is_cooked = method != UNCOOKED or one.state == "cooked"
    rule = _BY_GROUP.get(one.group)
    if rule is None:
        return ASSUMED if is_cooked else None
    return rule(one, method if method != UNCOOKED else "", is_cooked)


_CANNED = "opened canned food moved to a box"
_YOGURT, _OIL = "yogurt-based dressings and dips", "sauces and dressings with oil and vinegar, no garlic or herbs"


def _meat(one: Content, method: str, is_cooked: bool) -> str | None:
    if one.state == "canned-drained" and not method:
        return _CANNED
    if not is_cooked:
        if one.state == "as-sold":
            return "opened deli meat or ham"
        is_quick = one.group == "poultry" or _is(one, (), _GROUND, "")
        return "raw poultry or ground meat" if is_quick else "raw steaks chops and roasts"
    if _is(one, (), _GROUND, ""):
        return "cooked ground meat or meatballs"
    if method in _STEWED:
        return "stewed, braised or pulled meat"
    if one.group == "poultry":
        return "cooked poultry pieces or slices"
    return "cooked beef, pork or lamb roasts and steaks"


def _fish(one: Content, method: str, is_cooked: bool) -> str | None:
    if one.state == "canned-drained" and not method:
        return _CANNED
    if not is_cooked and _is(one, (), "smoked|cured|anchov", ""):
        return "smoked or cured fish opened"
    if not is_cooked and one.state != "as-sold":
        return "raw fish"
    return "cooked shellfish" if _is(one, (), _SHELLFISH, "") else "cooked fish"


def _eggs(one: Content, method: str, is_cooked: bool) -> str | None:
    if _is(one, (), "boiled", "") or method in ("boiled", "steamed"):
        return PEELED_EGGS
    # Raw egg that nobody cooks counts as the least that an egg dish keeps.
    return "scrambled eggs" if not is_cooked or method in _PANNED else "egg bakes, frittata and egg muffins"


def _dairy(one: Content, _method: str, is_cooked: bool) -> str | None:
    if one.state == "dry":
        return None
    return "sauces with dairy, cream or cheese" if is_cooked else _YOGURT


def _soy(one: Content, method: str, is_cooked: bool) -> str | None:
    if _is(one, (), "edamame|soybeans", ""):
        return "cooked legumes"
    if one.state == "dry" and not method:
        return None
    return "cooked tofu and tempeh" if is_cooked else "opened tofu in water"


def _legumes(one: Content, method: str, is_cooked: bool) -> str | None:
    if is_cooked:
        return "cooked legumes"
    if one.state == "dry" and not method:
        return None
    return _YOGURT if "hummus" in one.name.casefold() else _CANNED


def _grains(one: Content, method: str, is_cooked: bool) -> str | None:
    name = one.name.casefold()
    if not is_cooked or re.search(r"cakes|granola|popcorn|germ|bran\b", name):
        # Fresh pasta keeps like cooked pasta; what is dry keeps.
        return "cooked pasta and noodles" if one.state == "raw" else None
    if _is_rice(one):
        return "cooked rice"
    if re.search(r"pasta|noodle", name):
        return "cooked pasta and noodles"
    if name.startswith("oat"):
        return "cooked porridge"
    return "cooked quinoa, bulgur, couscous, barley and other grains"


def _roots(one: Content, method: str, is_cooked: bool) -> str | None:
    if is_cooked and _is(one, (), _TUBERS, ""):
        return "cooked potatoes, boiled or roasted"
    return _vegetables(one, method, is_cooked)


def _vegetables(one: Content, method: str, is_cooked: bool) -> str | None:
    if is_cooked:
        is_wet = method in _WET or method in ("steamed", "microwaved", "sous-vide") or (not method)
        return "steamed or boiled vegetables" if is_wet else "roasted vegetables"
    if one.state == "dry" or _is(one, (), _LEFT_ALONE, ""):
        return None
    if one.state in ("canned-drained", "as-sold"):
        return "tomato sauces" if _is(one, (), "passata|crushed", "") else _CANNED
    if _is(one, (), _LEAVES, ""):
        return "leafy salad without dressing"
    if one.state == "frozen":
        return "steamed or boiled vegetables"
    is_soft = _is(one, (), _SOFT, "")
    return "raw cut onions, tomatoes or cucumber" if is_soft else _HARD


_HARD = "raw cut hard vegetables (carrot, pepper, celery, cabbage)"


def _fruit(one: Content, _method: str, _is_cooked: bool) -> str | None:
    return None if _is(one, (), _DRY_FRUIT, "") else "cut fruit"


def _sauces(one: Content, _method: str, is_cooked: bool) -> str | None:
    name = one.name.casefold()
    if one.state == "dry" or re.search(r"wine|beer", name):
        return None
    if "pesto" in name:
        return "pesto and fresh herb sauces"
    if "guacamole" in name:
        return "cut fruit"
    if re.search(r"tzatziki|ranch|caesar", name):
        return _YOGURT
    if re.search(r"tomato|salsa|enchilada", name):
        return "tomato sauces"
    if re.search(r"stock|broth|gravy", name):
        return "stock and broth"
    if one.state == "canned-drained":
        return _CANNED
    return ASSUMED if is_cooked else _OIL


def _fats(one: Content, _method: str, _is_cooked: bool) -> str | None:
    name = one.name.casefold()
    if "mayonnaise" in name:
        return _YOGURT
    return _OIL if "oil" in name else None


def _herbs(one: Content, _method: str, is_cooked: bool) -> str | None:
    if one.state == "dry" or is_cooked:
        return None
    return "pesto and fresh herb sauces"


def _nothing(_one: Content, _method: str, _is_cooked: bool) -> str | None:
    return None


_BY_GROUP: Mapping[str, Callable[[Content, str, bool], str | None]] = {
    **dict.fromkeys(_MEATS, _meat),
    "fish-shellfish": _fish,
    "eggs": _eggs,
    "dairy-alternatives": _dairy,
    "soy-plant-protein": _soy,
    "legumes": _legumes,
    "grains-pasta": _grains,
    "potatoes-roots": _roots,
    "vegetables": _vegetables,
    "fruit": _fruit,
    "sauces-stocks": _sauces,
    "fats-oils": _fats,
    "herbs-spices": _herbs,
    "breads-wraps": _nothing,
    "nuts-seeds": _nothing,
    "protein-powders": _nothing,
    "sweeteners-baking": _nothing,
    "water": _nothing,
}
