"""Discard dates under each rule set: the day made counts, freezing stops the count, parents hand theirs on."""

from datetime import date

from brinefrost.core.bench.answer import (
    AnswerState,
    BenchAnswer,
    Figure,
    ScaleMark,
    ScalePicture,
    ScaleRow,
    SchoolAnswer,
    Stretch,
    planned,
)
from brinefrost.core.bench.scales import scales
from brinefrost.core.errors import NotFoundError, OutOfRangeError
from brinefrost.core.fields import field
from brinefrost.core.kitchen.dates import (
    LIVES,
    DiscardDate,
    Frozen,
    Made,
    Pack,
    days_allowed,
    discard_date,
    quality_until,
    use_by,
)
from brinefrost.core.rules import RULE_SET_IDS, RuleSetId
from brinefrost.core.words import joined, moment, say
from brinefrost.core.working import Document, Input, Sent, Working


class FrozenSpan(Document):
    """Days in the freezer."""

    since: date = field("day", ...)
    until: date | None = field("day", None)


class Parent(Document):
    """What it was made from."""

    last_day: date = field("day", ...)


class DatesQuestion(Sent):
    """When it was made, how packed, what happened to it since."""

    made_on: date = field("day", ..., main=True)
    as_of: date | None = field("day", None)
    made: Made = field("choice", "ready_to_eat", main=True)
    pack: Pack = field("choice", "open", main=True)
    rule_set: RuleSetId = field("choice", "us", main=True)
    own_days: float | None = field("number", None, 1, 365, "d", step=1)
    frozen: tuple[FrozenSpan, ...] = field("rows", (), most=12, main=True)
    parents: tuple[Parent, ...] = field("rows", (), most=20, main=True)

    def on(self, today: date) -> "DatesQuestion":
        """The same question asked on a day, where it names none of its own: kept or linked, it does not grow old."""
        return self if self.as_of else self.model_copy(update={"as_of": today})


def answer_dates(question: DatesQuestion) -> BenchAnswer:
    """The last day it may be used.

    The date under the chosen rule set, and under the others. Raises OutOfRangeError if the dates contradict each
    other, or no day is named to judge it on. Valid for food kept as cold as its rule asks. As ``discard_date``.
    """
    if question.made_on > _today(question):
        return _not_made(question)
    found = _find(question, question.rule_set)
    state, sentence = _verdict(question, found)
    return BenchAnswer(
        state=state,
        sentence=sentence,
        reason=found.because + _frozen_words(question),
        fixes=_fixes(state),
        figures=_figures(found, _today(question)),
        pictures=_picture(question),
        schools=tuple(_schools(question)),
        workings=(_working(question, found),),
        caution=say("bench.dates.the_oldest_part_decides_a_new"),
    )


def _figures(found: DiscardDate, today: date) -> tuple[Figure, ...]:
    return (
        Figure(
            name="last_day",
            value=None,
            kind="day",
            main=True,
            words=found.last_day.isoformat() if found.last_day else "",
            absent=say("bench.dates.in_the_freezer"),
        ),
        Figure(
            name="days_left",
            value=None if found.last_day is None else (found.last_day - today).days,
            kind="number",
            show="d",
            main=True,
            words=say("bench.dates.after_words", words=_words(today)),
            absent=say("bench.dates.standing_still"),
        ),
        Figure(
            name="days_allowed",
            value=found.days_allowed,
            kind="number",
            show="d",
            words=say("bench.dates.day_made_day_1"),
        ),
        Figure(
            name="days_frozen",
            value=found.days_frozen,
            kind="number",
            show="d",
            words=say("bench.dates.not_counted"),
        ),
    )


def _working(question: DatesQuestion, found: DiscardDate) -> Working:
    parents = joined((each.last_day.isoformat() for each in question.parents), ", ")
    return Working(
        title=say("bench.dates.discard_date"),
        formula=say("bench.dates.last_day_day_made_days_allowed"),
        inputs=(
            Input(name=say("bench.dates.made"), value=question.made_on.isoformat()),
            Input(name=say("bench.dates.days_allowed_2"), value=found.days_allowed, unit="d"),
            Input(name=say("bench.dates.whole_days_frozen"), value=found.days_frozen, unit="d"),
            Input(name=say("bench.dates.parents"), value=parents or say("bench.dates.none")),
        ),
        result=found.last_day.isoformat() if found.last_day else say("bench.dates.the_count_stands_still"),
        source=found.source,
        assumptions=(say("bench.dates.kept_as_cold_as_the_rule"),),
    )


def _not_made(question: DatesQuestion) -> BenchAnswer:
    """A day to come is a slip or a plan: no date is given, and nothing that was typed is lost."""
    return BenchAnswer(
        state="ask",
        sentence=say("bench.dates.has_not_come_yet_was_it", words=_words(question.made_on)),
        reason=say("bench.dates.it_is_judged_on", words=_words(_today(question))),
        caution=say("bench.dates.the_oldest_part_decides_a_new"),
    )


def _find(question: DatesQuestion, rule_set_id: RuleSetId) -> DiscardDate:
    return discard_date(
        rule_set_id,
        question.pack,
        question.made_on,
        _today(question),
        tuple(Frozen(since=each.since, until=each.until) for each in question.frozen),
        tuple(parent.last_day for parent in question.parents),
        _own_days(question),
    )


def _own_days(question: DatesQuestion) -> float | None:
    """The kitchen's own days, and those of the thing itself: the fewer."""
    known = [each for each in (question.own_days, LIVES[question.made].days) if each is not None]
    return min(known) if known else None


def _frozen_words(question: DatesQuestion) -> str:
    """Until when what lies, or lay, in the freezer is at its best; empty where nothing was frozen."""
    if not question.frozen:
        return ""
    last = max(question.frozen, key=lambda each: each.since)
    best = quality_until(question.made, last.since)
    past = (last.until or _today(question)) > best
    return (
        say("bench.dates.past_its_best_since_safe_if", words=_words(best))
        if past
        else say("bench.dates.at_its_best_until", words=_words(best))
    )


def _verdict(question: DatesQuestion, found: DiscardDate) -> tuple[AnswerState, str]:
    if found.last_day is None:
        return "would_meet", say("bench.dates.it_is_in_the_freezer_the")
    today = _today(question)
    left = (found.last_day - today).days
    state = planned(use_by(question.made_on, found.last_day, today).state)
    day = _words(found.last_day)
    if state == "would_fail":
        return state, say("bench.dates.past_its_last_day_discard_it", day=day)
    if state == "too_close":
        return state, say("bench.dates.is_its_last_day", day=day)
    return state, say(
        "bench.dates.use_it_by_more_after",
        day=day,
        left=left,
        more=say("bench.dates.day") if left == 1 else say("bench.dates.days"),
        words=_words(today),
    )


def _picture(question: DatesQuestion) -> tuple[ScalePicture, ...]:
    """Every rule set's days from the making on, the days in the freezer hatched, and today."""
    today, made = _today(question), question.made_on
    still = tuple(
        Stretch(low=(each.since - made).days, high=((each.until or today) - made).days, kind="still")
        for each in question.frozen
    )
    rows = [row for set_id in RULE_SET_IDS for row in _row(question, set_id, still)]
    if not rows:
        return ()
    parts = ((each.last_day - made).days + 1 for each in question.parents)
    marks = tuple(ScaleMark(words=say("bench.dates.oldest_part"), x=x) for x in sorted(parts)[:1])
    not_counted = say("bench.dates.frozen_not_counted") if still else ""
    return (scales("days", "day", rows, marks=marks, first_day=made, pointer=_words(today), still=not_counted),)


def _row(question: DatesQuestion, set_id: RuleSetId, still: tuple[Stretch, ...]) -> tuple[ScaleRow, ...]:
    """One rule set's days; nothing where it has no rule for this."""
    try:
        found = _find(question, set_id)
    except NotFoundError:
        return ()
    since = (_today(question) - question.made_on).days
    last = since if found.last_day is None else (found.last_day - question.made_on).days
    kept = (Stretch(low=0, high=last + 1),) if last >= 0 else ()  # the last day counts whole
    return (
        ScaleRow(
            words=set_id.upper(),
            said=say("bench.dates.in_the_freezer")
            if found.last_day is None
            else say("bench.dates.to_words", words=_words(found.last_day)),
            state=_verdict(question, found)[0],
            at=since + 0.5,  # some time today
            stretches=(*kept, *still),
        ),
    )


def _today(question: DatesQuestion) -> date:
    if question.as_of is None:
        raise OutOfRangeError(say("bench.dates.name_the_day_to_judge_it"))
    return question.as_of


def _words(day: date) -> str:
    return moment(day, "%d %b %Y")


def _fixes(state: AnswerState) -> tuple[str, ...]:
    if state == "would_fail":
        return (say("bench.dates.discard_it_and_log_the_discard"),)
    return (say("bench.dates.use_it_that_day_or_discard"),) if state == "too_close" else ()


def _schools(question: DatesQuestion) -> list[SchoolAnswer]:
    found = []
    for set_id in RULE_SET_IDS:
        try:
            limit, each = days_allowed(set_id, question.pack), _find(question, set_id)
        except NotFoundError:
            continue
        state, sentence = _verdict(question, each)
        found.append(
            SchoolAnswer(
                school=say("bench.cure.upper_title", upper=set_id.upper(), title=limit.title),
                state=state,
                sentence=sentence,
            )
        )
    return found
