"""Cook days by chance: kitchens and batches such as there are, and worse ones."""

from __future__ import annotations

from random import Random

from yantai.core.schedule.day import Day, Link, Machine, Need, Person, Pot, Skill, Span, Task, Touch


def kitchen(chance: Random) -> tuple[Machine, ...]:
    ovens = [
        Machine(key=f"oven{n}", name=f"Oven {n + 1}", capacity=chance.choice([1, 2, 2, 3]), heat_min=15)
        for n in range(chance.choice([1, 1, 2]))
    ]
    return (
        *ovens,
        Machine(key="hob", name="Hob", capacity=chance.choice([1, 2, 4])),
        Machine(key="pan", name="Pan 28", capacity=chance.choice([1, 2])),
        Machine(key="pot", name="Pot", capacity=chance.choice([1, 3])),
        Machine(key="board", name="Board", capacity=chance.choice([1, 2])),
        Machine(key="fridge", name="Fridge", capacity=60),
    )


def people(chance: Random, most_tasks: int, most: int = 3) -> tuple[Person, ...]:
    found = []
    for n in range(chance.randint(1, most)):
        start = chance.choice([0, 0, 15])
        end = start + 1600 + 40 * most_tasks
        there: tuple[Span, ...] = (Span(start=start, end=end),)
        if chance.random() < 0.3:
            pause = chance.randint(20, 200)
            there = (Span(start=start, end=pause), Span(start=pause + chance.choice([10, 30, 60]), end=end))
        does = frozenset(Skill) if n == 0 or chance.random() < 0.6 else frozenset({Skill.KNIFE, Skill.OTHER})
        pace = chance.choice([1.0, 1.0, 0.8, 1.3])
        found.append(Person(key=f"p{n}", name=f"Person {n}", there=there, does=does, pace=pace))
    return tuple(found)


def day(seed: int, most_tasks: int = 60, *, least_tasks: int = 2) -> Day:
    """Components of hands-on work, then something on a machine, with rounds, sauces and rests."""
    chance = Random(seed)
    machines = kitchen(chance)
    ovens = [machine for machine in machines if machine.heat_min]
    wanted = chance.randint(least_tasks, most_tasks)
    tasks: list[Task] = []
    links: list[Link] = []
    pots: list[Pot] = []
    while len(tasks) < wanted:
        pot = f"c{len(pots)}"
        pots.append(Pot(key=pot, name=pot, delicate=chance.choice([0, 0, 1, 3])))
        before: list[str] = []

        def add(task: Task, after: list[str], least: int = 0, most: int | None = None) -> str:
            if len(tasks) < wanted:
                tasks.append(task)
                known = {each.key for each in tasks}
                links.extend(
                    Link(before=each, after=task.key, least=least, most=most) for each in after if each in known
                )
            return task.key

        for number in range(chance.randint(0, 3)):
            raw = chance.random() < 0.3
            before.append(
                add(
                    Task(
                        key=f"{pot}prep{number}",
                        of=pot,
                        says=f"prepare {pot}",
                        minutes=chance.randint(1, 25),
                        hands_on=True,
                        skill=Skill.RAW if raw else Skill.KNIFE,
                        needs=(Need(options=(("board", 1),)),),
                    ),
                    [],
                )
            )
        if chance.random() < 0.15:
            before = [
                add(
                    Task(
                        key=f"{pot}soak",
                        of=pot,
                        says=f"soak {pot}",
                        minutes=30,
                        most_minutes=600,
                        touches=(Touch(minutes=2, says="cover with water"),),
                        needs=(Need(options=(("fridge", 20),)),),
                    ),
                    before,
                )
            ]
        rounds = chance.randint(1, 3)
        last: list[str] = []
        for number in range(rounds):
            kind = chance.choice(["oven", "hob", "stir", "hands"])
            key, rest = f"{pot}cook{number}", chance.choice([0, 0, 5])
            lasts = chance.randint(6, 60)
            if kind == "oven":
                task = Task(
                    key=key,
                    of=pot,
                    says=f"bake {pot}",
                    minutes=lasts,
                    skill=Skill.HEAT,
                    touches=(
                        Touch(minutes=2, says="in"),
                        *((Touch(minutes=1, low=lasts // 2 - 2, high=lasts // 2, says="turn"),) if lasts > 15 else ()),
                        Touch(minutes=1, low=1, from_end=True, says="out"),
                    ),
                    needs=(Need(options=tuple((oven.key, chance.randint(1, oven.capacity)) for oven in ovens)),),
                    temperature_c=chance.choice([160, 200, 200, 220]),
                    rest_min=rest,
                )
            elif kind == "hands":
                task = Task(
                    key=key,
                    of=pot,
                    says=f"fry {pot}",
                    minutes=min(lasts, 20),
                    hands_on=True,
                    skill=Skill.HEAT,
                    needs=(Need(options=(("hob", 1),)), Need(options=(("pan", 1),))),
                    rest_min=rest,
                )
            else:
                stirs = (
                    tuple(Touch(minutes=1, low=at - 2, high=at, says="stir") for at in range(8, lasts - 3, 8))
                    if kind == "stir"
                    else ()
                )
                task = Task(
                    key=key,
                    of=pot,
                    says=f"boil {pot}",
                    minutes=lasts,
                    skill=Skill.HEAT,
                    touches=(Touch(minutes=1, says="on"), *stirs, Touch(minutes=1, low=1, from_end=True, says="off")),
                    needs=(Need(options=(("hob", 1),)), Need(options=(("pot", 1),))),
                    rest_min=rest,
                )
            last.append(add(task, before))
        if chance.random() < 0.4:
            add(
                Task(
                    key=f"{pot}dress",
                    of=pot,
                    says=f"dress {pot}",
                    minutes=chance.randint(1, 8),
                    hands_on=True,
                ),
                last,
                least=chance.choice([0, 5]),
                most=chance.choice([None, None, 120]),
            )
    return Day(
        tasks=tuple(tasks), links=tuple(links), people=people(chance, most_tasks), machines=machines, pots=tuple(pots)
    )


def small(seed: int, most_tasks: int, *, touched_later: bool) -> Day:
    """A few short tasks on little equipment; with `touched_later`, hands are needed in the middle and at the end."""
    chance = Random(seed)
    oven = Machine(key="oven", name="Oven", capacity=chance.choice([1, 2]), heat_min=4)
    machines = (oven, Machine(key="ring", name="Ring", capacity=chance.choice([1, 2])))
    cooks = tuple(
        Person(
            key=f"p{number}",
            name=f"Person {number}",
            there=(Span(start=0, end=6), Span(start=8, end=500))
            if chance.random() < 0.4
            else (Span(start=0, end=500),),
            does=frozenset(Skill) if not number or chance.random() < 0.6 else frozenset({Skill.OTHER}),
            pace=chance.choice([1.0, 1.5]),
        )
        for number in range(chance.choice([1, 1, 2]))
    )
    tasks: list[Task] = []
    links: list[Link] = []
    for number in range(chance.randint(2, most_tasks)):
        kind, lasts = chance.choice(["hands", "oven", "ring"]), chance.randint(1, 5)
        key, of = f"t{number}", f"c{number % 3}"
        if kind == "hands":
            needs = (Need(options=(("ring", 1),)),) if chance.random() < 0.3 else ()
            tasks.append(Task(key=key, of=of, says=key, minutes=lasts, hands_on=True, needs=needs))
        else:
            lasts += 2
            touches = [Touch(minutes=1)]
            if touched_later:
                touches = [Touch(minutes=1, low=1, high=2), Touch(minutes=1, low=1, from_end=True)]
            tasks.append(
                Task(
                    key=key,
                    of=of,
                    says=key,
                    minutes=lasts,
                    skill=Skill.HEAT,
                    touches=tuple(touches),
                    needs=(Need(options=((kind, 1),)),),
                    temperature_c=chance.choice([160.0, 200.0]) if kind == "oven" else None,
                    rest_min=chance.choice([0, 2]),
                )
            )
        for before in tasks[:-1]:
            if chance.random() < 0.2:
                links.append(Link(before=before.key, after=key, least=chance.choice([0, 2])))
    return Day(
        tasks=tuple(tasks),
        links=tuple(links),
        people=cooks,
        machines=machines,
        pots=tuple(Pot(key=f"c{n}", name=f"c{n}") for n in range(3)),
    )
