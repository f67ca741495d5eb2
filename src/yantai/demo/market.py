"""What the shops by the harbour of Port Alder sell, in packs with made-up prices."""

from __future__ import annotations

from yantai.work.pantry.inputs import PackInput

PRICED = {
    "ground-turkey-93-lean-raw": [
        PackInput(name="tray", grams=400, price=3.1),
        PackInput(name="large tray", grams=1000, price=6.9),
    ],
    "ground-turkey-99-fat-free-raw": [PackInput(name="tray", grams=400, price=3.4)],
    "bulgur-wheat-dry": [
        PackInput(name="bag", grams=500, price=1.6),
        PackInput(name="large bag", grams=1000, price=2.7),
    ],
    "zucchini-with-skin-raw": [PackInput(name="crate", grams=1000, price=2.2)],
    "onion-raw": [PackInput(name="net", grams=1000, price=1.2)],
    "greek-yogurt-plain-low-fat": [
        PackInput(name="tub", grams=500, price=1.9),
        PackInput(name="bucket", grams=1000, price=3.3),
    ],
    "rice-white-long-grain-dry": [PackInput(name="bag", grams=1000, price=2.1)],
    "chicken-breast-skinless-raw": [PackInput(name="tray", grams=600, price=5.4)],
    "chickpeas-canned-drained": [PackInput(name="can", grams=400, drained_g=240, price=0.85)],
    "egg-whole-raw": [PackInput(name="box of ten", grams=580, price=2.6)],
    "tofu-extra-firm": [PackInput(name="block", grams=400, price=2.2)],
}
