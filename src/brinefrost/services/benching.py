"""The Bench: its pages, and the answers people keep."""

import json
import uuid
from datetime import date, datetime
from typing import Any
from zoneinfo import ZoneInfo

from pydantic import ValidationError

from brinefrost.core.bench.families import FAMILIES, FamilyRead, answer, families
from brinefrost.core.errors import NotAllowedError, NotFoundError, OutOfRangeError, RefusedError
from brinefrost.core.words import Words, packed, say, unpacked
from brinefrost.core.working import Sent
from brinefrost.services.office import Actor
from brinefrost.store import Store
from brinefrost.store.kept import KeptInfo

MOST_KEPT = 200


class KeptAnswer(Sent):
    """A question somebody kept, with what was said of it then."""

    id: str
    family: str
    name: str
    question: dict[str, Any]
    state: str
    sentence: Words
    by: str
    kept_at: datetime


def pages(store: Store, now: datetime) -> tuple[FamilyRead, ...]:
    """Every family, its questions dated by the kitchen's own day."""
    return families(today(store, now), store.site.read().altitude_m)


def today(store: Store, now: datetime) -> date:
    """The kitchen's own day."""
    return now.astimezone(ZoneInfo(store.site.read().zone)).date()


def keep(store: Store, actor: Actor, now: datetime, family: str, name: str, question: dict[str, Any]) -> KeptAnswer:
    """Answer a question once more and keep it under a name."""
    if family not in FAMILIES:
        raise NotFoundError(say("services.benching.the_bench_has_no_page", family=family), family=family)
    if store.kept.count() >= MOST_KEPT:
        raise RefusedError(say("services.benching.answers_are_kept_already_take_one_x", most_kept=MOST_KEPT))
    try:
        asked = FAMILIES[family].question.model_validate(question)
    except ValidationError as error:
        raise OutOfRangeError(say("services.benching.this_question_is_not_one_that")) from error
    said = answer(family, asked, today(store, now))
    info = KeptInfo(
        id=uuid.uuid4().hex,
        family=family,
        name=name,
        question=asked.model_dump_json(),
        state=said.state,
        sentence=packed(said.sentence),
        person_id=actor.id,
        person_name=actor.name,
        kept_at=now,
    )
    store.kept.add(info)
    return _view(info)


def kept(store: Store) -> list[KeptAnswer]:
    """What is kept, the newest first."""
    return [_view(info) for info in store.kept.latest(MOST_KEPT)]


def discard(store: Store, actor: Actor, kept_id: str) -> KeptAnswer:
    """Take a kept answer off the shelf: one's own, or any for the lead."""
    info = store.kept.read(kept_id)
    if actor.role != "lead" and info.person_id != actor.id:
        raise NotAllowedError(say("services.benching.kept_this_ask_them_or_the", person_name=info.person_name))
    store.kept.remove(kept_id)
    return _view(info)


def _view(info: KeptInfo) -> KeptAnswer:
    return KeptAnswer(
        id=info.id,
        family=info.family,
        name=info.name,
        question=json.loads(info.question),
        state=info.state,
        sentence=unpacked(info.sentence),
        by=info.person_name,
        kept_at=info.kept_at,
    )
