"""Fill an empty store with the demo scenario."""

from __future__ import annotations

from dataclasses import replace
from datetime import date, timedelta

from nabrel.core.ask.recommend import plan
from nabrel.core.house import House
from nabrel.core.plan.sequence import Sequence
from nabrel.demo import course, practice, season, worn
from nabrel.demo.kestrel_quay import sitters
from nabrel.demo.kit import kit
from nabrel.store.classes import Classes
from nabrel.store.database import Database
from nabrel.store.practice import DrillSets, Students
from nabrel.store.repositories import Kit, Sequences, Sitters
from nabrel.store.shelf import NamedKits, Tools
from nabrel.store.skin_readings import SkinReadings
from nabrel.store.wear import Wears


def fill(database: Database, today: date | None = None) -> bool:
    """Put Kestrel Quay into a store that holds no sitter; whether anything was added. Days are told from ``today``."""
    today = today or date.today()
    with database.session() as session:
        stored = Sitters(session)
        if stored.all():
            return False
        Kit(session).take_in(kit())
        read = season.readings(today)
        plans: dict[str, tuple[str, str, Sequence]] = {}
        for case in sitters():
            agreed = replace(case.sitter, consent_on=today - timedelta(days=season.CONSENTED))
            sitter_id = stored.add(agreed, case.intent)
            SkinReadings(session).add(sitter_id, read.get(agreed.nickname, ()))
            sequence = replace(plan(case, House()), title=f"{agreed.nickname} for the season")
            plan_id = Sequences(session).add(sitter_id, sequence)
            plans[agreed.nickname] = (sitter_id, plan_id, sequence)
            for wear in worn.wears(agreed.nickname, plan_id, sequence, today):
                Wears(session).save(wear)
        for item in season.in_use(kit(), today):
            Kit(session).put(item)
        for tool in season.tools(today):
            Tools(session).put(tool)
        for taught in course.classes(plans, today):
            Classes(session).put_back(taught)
        for named in season.named_kits(kit()):
            NamedKits(session).put(named)
        made = practice.sets(tuple(plans[name][0] for name in ("Tamsin", "Merrick")))
        for each in made:
            DrillSets(session).put_back(each)
        for student in practice.practice({name: plans[name][0] for name in plans}, today, made[0]):
            Students(session).take_in(student)
    return True
