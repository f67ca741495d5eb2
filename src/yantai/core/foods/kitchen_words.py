"""Words of ingredient lines: which mean the same, which change what the food is, and which say nothing of it."""

from __future__ import annotations

import re
from collections.abc import Mapping
from functools import cache

from yantai.core.words import folded, same_words

_PHRASES: tuple[tuple[str, str], ...] = (
    (r"(?<=[a-z])'s\b", ""),  # goat's cheese
    (r"\bper ?cent\b", "%"),
    (r"\b(?:skin[\s-]*(?:off|less|removed)|no skin|without (?:the )?skin|skinned)\b", "skinless"),
    (r"\b(?:with )?(?:the )?skin[\s-]*on\b|\bwith (?:the )?skin\b", "skinon"),
    (r"\bbone[\s-]*in\b|\bon the bone\b|\bwith (?:the )?bones?\b", "bonein"),
    (r"\bbone[\s-]*(?:off|less|out|free)\b|\b(?:de-?)?boned\b|\boff the bone\b|\bno bones?\b", "boneless"),
    (r"\b(?:trimmed of|without)(?: all| any)?(?: excess| visible)? fat\b", " "),
    (r"\b(?:excess |visible |all )*fat (?:trimmed|removed|cut) ?(?:off)?\b", " "),
    (r"\bfat[\s-]*free\b|\bnon[\s-]?fat\b|(?<![\d.])0\s*%(?: fat)?|\bno fat\b", "nonfat"),
    (r"\b(?:reduced|lower|less)[\s-]+fat\b", "reducedfat"),
    (r"\blow[\s-]+fat\b", "lowfat"),
    (r"\bhalf[\s-]+fat\b", "halffat"),
    (r"\bfull[\s-]+fat\b", "fullfat"),
    (r"\bsemi[\s-]*skim(?:med)?\b", "semiskimmed"),
    (r"\b(?:low(?:er)?|reduced|less)[\s-]+(?:sodium|salt)\b", "reducedsalt"),
    (r"\b(?:packed )?in (?:spring ?|mineral )?water(?: or broth)?\b|\bin brine\b", "inwater"),
    (r"\bin (?:olive |sunflower |vegetable )?oil\b", "inoil"),
    (r"\bin (?:its own |their own |natural |fruit )?juice\b", "injuice"),
    (r"\bin (?:light |heavy )?syrup\b", "insyrup"),
    (r"\bmashed (?=(?:sweet )?potato)|(?<=potato) mash\b", "mash "),
    (r"\b(?:salad|beef) (?=(?:potato|tomato)(?:es)?\b)", " "),
    (r"\b(?:stock|bouillon|broth) cubes?\b", "stockcube"),
    (r"\bself[\s-]*(?:raising|rising)\b", "selfraising"),
    (r"\bsun[\s-]*dried\b", "sundried"),
    (r"\bcreme fraiche\b", "cremefraiche"),
    (r"\bice cream\b", "icecream"),
    (r"\bcoconut milk drink\b", "coconut drink"),
    (r"\bbutter ?beans?\b", "lima"),
    (r"\blima \(butter\) beans?\b|\blima beans?\b", "lima"),
    (r"\bblack[\s-]*eyed? (?:peas?|beans?)\b", "blackeyed"),
    (r"\bchick[\s-]peas?\b|\bgarbanzo(?: beans?)?\b", "chickpea"),
    (r"\b(?:bok|pak) cho[iy]\b", "pakchoi"),
    (r"\bmange[\s-]*touts?\b|\bsnow peas?\b|\bsugar[\s-]*snaps?(?: peas?)?\b", "snowpea"),
    (r"\bspring onions?\b|\bgreen onions?\b|\bsalad onions?\b", "scallion"),
    (r"\bcorn on the cob\b|\bcorn ?cobs?\b|\bcobs? of corn\b|\bears? of (?:sweet)?corn\b", "corncob"),
    (r"\bsweet[\s-]corn\b", "sweetcorn"),
    (r"\bhalf[\s-]and[\s-]half\b", "halfandhalf"),
    (r"\bbread[\s-]crumbs?\b", "breadcrumb"),
    (r"\bgluten[\s-]*free\b", "glutenfree"),
    (r"\bfull[\s-]*cream\b", "fullcream"),
    (r"\brind(?:s)? (?:removed|off)\b|\brindless\b", " "),
    (r"\b(?:ready[\s-]*cooked|pre[\s-]*cooked|microwav(?:e|eable|able|ed))\b", "cooked"),
    (r"\bquick[\s-]*cook(?:ing)?\b|\b1[\s-]minute\b", "quick"),
    (r"\beasy[\s-]*cook(?:ing)?\b", "easycook"),
    (r"\blong[\s-]+grain(?:ed)?\b", "longgrain"),
    (r"\bshort[\s-]+grain(?:ed)?\b", "shortgrain"),
    (r"\bsteel[\s-]+cut\b|\bpinhead\b", "steelcut"),
    (r"\ball[\s-]*purpose\b", "plain"),
    (r"\bextra[\s-]*virgin\b", "virgin"),
    (r"\bfree[\s-]*range\b", "organic"),
    (r"\ba? ?baby leaf\b", "baby leaf"),
    (r"\bfilo\b|\bfillo\b", "phyllo"),
    (r"\bpick(?:ed)? leaves\b|\bleaves picked\b|\bleaves only\b|\b(?:stalks?|stems?|seeds?|core|tops?) removed\b", " "),
    (
        r"\b(?:casings?|rinds?|membranes?|silverskin|sinews?|shells?|heads?|tails?|ends?|roots?|tips?|ribs?|cores?|"
        r"stalks?|stems?|strings?|peel|pith|pits?|stones?|pips?|seeds?|veins?|whiskers|beards?|gills?)"
        r"(?: and \w+)? (?:removed|discarded|trimmed|off|pulled off|cut off)\b",
        " ",
    ),
    (r"\b(?:white|green)(?: and (?:light |pale )?green)? parts?(?: only)?\b", " "),
    # "cut into half moons", "sliced on the diagonal": how, up to the next comma; "in oil" is what it lies in.
    (
        r"\b(?:cut|sliced|chopped|diced|torn|broken|shredded|halved|split|snapped|carved|separated|divided) "
        r"(?:into|to|on|along|across|in(?! (?:\w+ )?(?:oil|brine|water|juice|syrup|sauce|vinegar)\b))\b[^,;()]*",
        " ",
    ),
    (
        r"\b(?:with|using|in|on) (?:an?|the|your) [a-z\s-]{0,24}?"
        r"(?:grater|processor|blender|fork|mandoline|peeler|mortar|sieve|colander|knife|spoon|microplane)\b",
        " ",
    ),
    (r"\b(?:left|kept|leave) whole\b|\bwhole or (?:halved|sliced|chopped)\b", " "),
    (r"\bpan[\s-]fried\b", "fried"),
    (r"\bfor the (?:pan|tin|dish|pot|tray|grill|bowl|top)\b", " "),
    (r"\bvac(?:uum)?[\s-]*pac(?:k|ked)?\b", " "),
    (r"\bwhole[\s-]?grain\b", "whole wheat"),
    (r"\blite soy\b", "reducedsalt soy"),
    (r"\bsweet pots?\b", "sweet potato"),
    (r"\bcapsicums?\b", "bell pepper"),
    (r"\b(?:chopped|diced) tomatoes\b(?!.*\b(?:fresh|ripe)\b)", "choppedtomato"),
    (r"\bcrushed tomatoes\b", "crushedtomato"),
    (r"\bhalf[\s-]inch\b|\b\d+(?:\.\d+)?[\s-]*(?:cm|mm|in|inch|inches)\b", " "),
    (r"\bin(?:to)? (?:\w+ )?(?:chunks?|cubes?|dice|slices?|strips?|wedges?|rounds?|pieces?|florets?|matchsticks?|"
     r"batons?|rings?|ribbons?|quarters?|halves)\b", " "),
    # Garlic and chillies are minced with a knife; only of meat, and of what stands for it, "minced" is another food.
    (
        r"^(?!.*\b(?:beef|pork|lamb|turkey|chicken|veal|venison|bison|duck|meat|steak|soya?|plant|vegetarian|vegan)\b)"
        r"(.*?)\bminced\b",
        r"\1 ",
    ),
    (r"\bfat (?=cloves?\b|garlic)", " "),
    # One pepper may be the spice; several are the vegetable.
    (r"(?<!chilli )(?<!chili )(?<!jalapeno )(?<!cayenne )\bpeppers\b", "bell pepper"),
    (r"\broom temperature\b", " "),
    (r"\bof your choice\b|\bany kind\b", " any "),
)  # fmt: skip
_COMPILED = tuple((re.compile(pattern), written) for pattern, written in _PHRASES)
_LINE_WORDS: Mapping[str, str] = {
    "broc": "broccoli", "kumara": "sweet potato", "silverbeet": "chard", "rockmelon": "cantaloupe",
    "brinjal": "eggplant", "bhindi": "okra", "maida": "flour", "jeera": "cumin", "haldi": "turmeric",
    "dhania": "cilantro", "suji": "semolina", "rava": "semolina", "dalia": "bulgur", "methi": "fenugreek",
    "calamari": "squid", "eschalot": "shallot", "pb": "peanut butter", "chk": "chicken", "brocolli": "broccoli",
    "evoo": "virgin olive oil", "yog": "yogurt", "yoghourt": "yogurt", "pitta": "pita", "chapatti": "chapati",
    "chapathi": "chapati", "roti": "chapati", "chapatis": "chapati", "rotis": "chapati", "spud": "potato",
    "lite": "light", "lighter": "light", "fatfree": "nonfat", "skim": "skimmed", "chx": "chicken",
    "veg": "vegetable", "mozarella": "mozzarella", "parmigiano": "parmesan", "parm": "parmesan",
    "choc": "chocolate", "marg": "margarine", "cukes": "cucumber", "bulghur": "bulgur", "bulgar": "bulgur",
    "burghul": "bulgur", "wraps": "wrap", "sieved": "passata", "linseed": "flax", "flaxseed": "flax",
    "flaxmeal": "flax", "aubergines": "eggplant", "shoulders": "shoulder", "gnocci": "gnocchi",
    "mayo": "mayonnaise", "catsup": "ketchup", "confectioner": "powdered", "icing": "powdered",
    "demerara": "brown", "muscovado": "brown", "superfine": "granulated", "dahl": "lentil", "dal": "lentil",
    "dhal": "lentil", "bicarb": "bicarbonate", "sweetpotato": "sweet potato",
    "filet": "fillet", "tom": "tomato", "mushie": "mushroom", "mushy": "mushroom",
}  # fmt: skip


def _words(text: str) -> frozenset[str]:
    return frozenset(text.split())


NOT_MATTERING = _words(
    """
    a an and of the with in on for to from into your some my our this that any it its as by up down
    off out x if needed necessary like liked wanted preferably ideally e g eg ie etc about approximately
    approx around roughly ca circa each total plus more extra at least max maximum min just few couple bit
    little handful drizzle fresh freshly finely coarsely thinly thickly lightly well very evenly gently loosely
    tightly firmly packed chopped diced sliced grated crushed peeled trimmed halved quartered cubed torn
    shredded picked washed rinsed drained deseeded seeded pitted stoned cored beaten whisked melted softened
    warmed cooled chilled cold warm hot sifted toasted shaved crumbled mashed pressed squeezed juiced zested
    scrubbed topped tailed podded shelled hulled husked split cut sized size bite chunk cube slice strip wedge
    round dice piece matchstick baton ribbon quarter half floret spear stalk stem stick sprig bunch bulb segment
    stone pip shaving flake flaked slivered lengthwise crosswise diagonally diagonal long short thin thick
    chunky fine coarse rough small medium large big baby mini young ripe good quality best organic local
    seasonal british irish american prepared preprepared ready bought homemade shop store supermarket brand own
    pack packet bag box tub tin jar carton punnet pouch sachet container bottle vacuum kg ml l oz lb cl dl pound
    ounce gram litre weight weighed raw choice preference taste serve serving garnish sprinkle sprinkling
    topping frying greasing brushing dusting mashing roasting separated reserved divided thawed defrosted
    boneless dry patted wiped cleaned deveined tip outer tough woody tender undrained unpeeled trim excess
    soaked overnight optional generous scant level heaped heaping rounded then
    approximate net day central centre center middle scored butterflied flattened bashed tied removed discarded
    required temperature recommended julienned julienne spiralised spiralized bruised smashed slit snipped ripped
    wilted stemmed destemmed debearded gutted scaled jointed portioned ribboned lengthway widthway wide
    kitchen family value everyday standard regular normal unrefined
    """
)
"""Words that say how a food is cut, bought or served, not what it is. A word with another meaning is not
here, nor one that denies or offers another food ("not wholewheat", "or turkey"): with those a line is asked about."""

FORMS = _words(
    """
    flour pudding juice powder sauce paste puree oil milk cream butter cheese vinegar stock bread cake noodle
    soup syrup jam seed starch sausage burger crisp chip wine beer extract pickle spread dressing bran germ meal
    liver yogurt icecream crumb cracker bun roll pastry wrap tortilla wing drumstick ground ketchup pesto salsa
    bacon ham deli jerky cereal bar drink water concentrate peel zest rind powdered gravy mix seasoning
    ball meatball nugget finger pie crust pepperoni chorizo salami substitute yolk puff leather custard jelly
    relish chutney marmalade curd kernel sundried fry mash
    """
)
"""Words that make another food of the one they stand with: they never drop out, on either side."""

STATE_WORDS = _words(
    """
    raw dry dried cooked boiled steamed roasted roast grilled baked frozen canned leftover uncooked precooked
    fresh simmered poached braised fried stewed
    """
)
METHODS: Mapping[str, str] = {
    "roast": "roasted", "roasted": "roasted", "grilled": "grilled", "griddled": "grilled", "baked": "baked",
    "boiled": "boiled", "steamed": "steamed", "poached": "poached", "braised": "braised", "fried": "pan-fried",
    "simmered": "simmered", "stewed": "simmered", "smoked": "smoked", "toasted": "toasted",
}  # fmt: skip
"""Words of a line that say how a cooked food was cooked, to the method of an entry."""


@cache
def words_of(text: str) -> tuple[str, ...]:
    """Words as they are compared: without accents and plurals, phrases as one word, one spelling for each.

    >>> words_of("Courgettes & Tomatoes"), words_of("chicken thighs, bone in, skin on")
    (('zucchini', 'tomato'), ('chicken', 'thigh', 'bonein', 'skinon'))
    """
    plain = folded(text)
    for pattern, written in _COMPILED:
        plain = pattern.sub(rf" {written} ", plain)
    plain = re.sub(r"(\d+(?:\.\d+)?)\s*%", r" \1pc ", plain)
    found: list[str] = []
    for word in same_words(re.findall(r"[a-z0-9.]*[a-z0-9]", plain)):
        found += _LINE_WORDS.get(word, word).split()
    return _as_lean(tuple(found))


def _as_lean(words: tuple[str, ...]) -> tuple[str, ...]:
    """The fat of minced meat as the lean share by which it is sold elsewhere: "5 % fat" is "95 % lean"."""
    if "ground" not in words:
        return tuple(word for word in words if word != "fat" or not _shares(words))
    shares = _shares(words)
    turned = []
    for word in words:
        if word in shares and 0 < float(word[:-2]) <= 30:
            turned += [f"{100 - float(word[:-2]):g}pc", "lean"]
        elif word == "fat" and shares:
            continue
        else:
            turned.append(word)
    return tuple(dict.fromkeys(turned))


def _shares(words: tuple[str, ...]) -> list[str]:
    return [word for word in words if re.fullmatch(r"\d+(?:\.\d+)?pc", word)]


@cache
def telling_words(text: str) -> tuple[str, ...]:
    """The words of `text` that tell which food it is.

    >>> telling_words("boneless chicken thighs, cut into chunks")
    ('chicken', 'thigh')
    """
    return tuple(word for word in dict.fromkeys(words_of(text)) if word not in NOT_MATTERING | STATE_WORDS)
