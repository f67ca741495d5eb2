"""The Plan figures of the demo batch, by the application and by a few lines that share no code with it.

    ./yantai start            in one terminal
    python bench/plan_figures.py [ADDRESS] > docs/plan-figures.md

Needs only Python: it signs in to the demo like a browser does, then computes every container anew from
src/yantai/reference/data/foods.csv, the raw amounts and the grams.
"""

import csv
import json
import sys
import urllib.request
from http.cookiejar import CookieJar
from pathlib import Path

API = (sys.argv[1] if len(sys.argv) > 1 else "http://127.0.0.1:8420") + "/api/v1"
DATA = Path(__file__).parents[1] / "src/yantai/reference/data/foods.csv"
MACROS = ("protein_g", "carbohydrate_g", "fat_g")
web = urllib.request.build_opener(urllib.request.HTTPCookieProcessor(CookieJar()))


def call(path, body=None):
    data = None if body is None else json.dumps(body).encode()
    request = urllib.request.Request(API + path, data, {"Content-Type": "application/json"})
    return json.load(web.open(request))


call("/session", call("/installation")["demo"])
batch = next(b for b in call("/batches") if b["name"] == "Kofta Sunday")
plan = call(f"/batches/{batch['id']}/plan")
foods = {(f["name"], f["state"]): f for f in csv.DictReader(DATA.open(encoding="utf-8"))}

per_gram = []
for c in plan["components"]:
    held = dict.fromkeys(MACROS, 0.0)
    for line in c["lines"]:
        if line["name"] != "Water":
            for m in MACROS:
                edible = line["purchased_g"] * (1 - line["refuse_share"]) * line["retained_share"]
                held[m] += edible * float(foods[line["name"], line["state"]][m] or 0) / 100
    per_gram.append({m: held[m] / c["cooked_g"] for m in MACROS})

print("# The Plan figures of the demo batch, computed twice\n")
print("One container of each row: the application's figure / that of `bench/plan_figures.py`, which shares no code")
print("with the application. Made by running that script against the demo.\n")
print("| row | protein g | carbohydrate g | fat g | kcal | largest difference |")
print("|---|---|---|---|---|---|")
for row in plan["rows"]:
    own = {m: sum(x["grams"] * g[m] for x, g in zip(row["cells"], per_gram, strict=True)) for m in MACROS}
    own["kcal"] = 4 * own["protein_g"] + 4 * own["carbohydrate_g"] + 9 * own["fat_g"]
    keys = (*MACROS, "kcal")
    cells = " | ".join(f"{row['amounts'][k]:.2f} / {own[k]:.2f}" for k in keys)
    apart = max(abs(row["amounts"][k] - own[k]) for k in keys)
    print(f"| {row['client']}, {row['slot']}, {row['day_type']} | {cells} | {apart:.5f} |")
print("\n| component | in containers g (application / sum of cells × containers) | cooked g | raw as bought g |")
print("|---|---|---|---|")
for index, c in enumerate(plan["components"]):
    total = sum(row["cells"][index]["grams"] * row["count"] for row in plan["rows"])
    bought = sum(line["purchased_g"] for line in c["lines"])
    print(
        f"| {c['name']} | {c['needed_g']:.1f} / {total:.1f} | {c['cooked_g']:.1f} / {total * 1.03:.1f} "
        f"| {c['purchased_g']:.1f} / {bought:.1f} |"
    )
