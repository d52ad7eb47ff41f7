"""One topic under every rule set, and a kitchen's own limit beside them: stricter, or a departure with a reason."""

from typing import Literal

from brinefrost.core.bench.answer import (
    AnswerState,
    BenchAnswer,
    Figure,
    ScalePicture,
    ScaleRow,
    SchoolAnswer,
    Stretch,
    Table,
)
from brinefrost.core.bench.scales import scales
from brinefrost.core.errors import NotFoundError, RefusedError
from brinefrost.core.fields import Kind, field
from brinefrost.core.limits import Limit
from brinefrost.core.rules import RULE_SET_IDS, RuleSetId, rule_set
from brinefrost.core.rules.layers import OwnRule, layered, strictness
from brinefrost.core.words import say
from brinefrost.core.working import Input, Sent, Source, Working

TopicKey = Literal[
    "hold.hot",
    "hold.cold",
    "chill.cooked",
    "reheat",
    "time.uncontrolled",
    "date.ready_to_eat",
    "keep.days",
    "keep.cold",
    "cook.poultry",
    "cook.whole",
    "cook.minced",
    "cook.game",
    "freeze.parasites",
    "receive.cold",
]
WARMTHS = (
    "hold.hot",
    "hold.cold",
    "reheat",
    "keep.cold",
    "cook.poultry",
    "cook.whole",
    "cook.minced",
    "cook.game",
    "receive.cold",
)
TIMES = ("chill.cooked", "time.uncontrolled")
DAYS = ("date.ready_to_eat", "keep.days")
OWN = Source(citation="This kitchen's own rule", tag="common_practice")


class RulesQuestion(Sent):
    """A topic, the rule set the kitchen answers to, and the kitchen's own number."""

    topic: TopicKey = field("choice", "hold.hot", main=True)
    rule_set: RuleSetId = field("choice", "us", main=True)
    own_c: float | None = field("temperature", 63, -40, 100, main=True, only={"topic": WARMTHS})
    own_s: float | None = field("time", 3600, 60, 48 * 3600, "h", main=True, only={"topic": TIMES})
    own_days: float | None = field("number", 3, 1, 90, "d", step=1, main=True, only={"topic": DAYS})
    own_reason: str = field("words", "", main=True)


def answer_rules(question: RulesQuestion) -> BenchAnswer:
    """Show a topic under every rule set and judge the kitchen's own limit against the chosen one.

    Whether the own limit is stricter, the same or looser; every school with its source. Raises NotFoundError if the
    rule set has no limit for the topic. Valid for plain bounds, holds, coolings and times; tables are shown, not
    compared.
    """
    rules = rule_set(question.rule_set)
    rule = rules.entries_for(question.topic)[0].limit if rules.entries_for(question.topic) else None
    if rule is None:
        raise NotFoundError(say("bench.rules.has_no_figure_for_this_topic", name=rules.name))
    own = _own(rule, question)
    state, sentence, reason = _verdict(question, rule, own)
    return BenchAnswer(
        state=state,
        sentence=sentence,
        reason=reason,
        fixes=(say("bench.rules.write_why_it_is_departed_from"),) if state == "would_fail" else (),
        figures=()
        if own is None
        else (Figure(name="own_limit", value=None, kind="words", words=own.title, main=True),),
        pictures=_picture(question),
        tables=(_all(question.topic),),
        schools=tuple(
            SchoolAnswer(
                school=say("bench.rules.upper_school", upper=set_id.upper(), school=entry.school),
                state=_beside(entry.limit, question),
                sentence=say("bench.rules.title_qualifier", title=entry.limit.title, qualifier=entry.limit.qualifier),
            )
            for set_id in RULE_SET_IDS
            for entry in rule_set(set_id).entries_for(question.topic)
        ),
        workings=(
            Working(
                title=say("bench.rules.strictness"),
                formula=say("bench.rules.every_part_of_the_own_limit"),
                inputs=(
                    Input(name=say("bench.rules.rule"), value=rule.title),
                    Input(name=say("bench.rules.own"), value=own.title if own else "none"),
                ),
                result=strictness(own, rule) if own else "",
                source=rule.source,
            ),
        ),
        caution=rules.authority,
    )


def _own(rule: Limit, question: RulesQuestion) -> Limit | None:
    """The rule with the kitchen's number in it; None where no number was given or the rule is a table."""
    value = _value(question)
    turned = None if value is None else rule.turned_to(value)
    return turned and turned.model_copy(update={"id": "own-" + rule.id, "source": OWN})


def _value(question: RulesQuestion) -> float | None:
    if question.topic in WARMTHS:
        return question.own_c
    return question.own_s if question.topic in TIMES else question.own_days if question.topic in DAYS else None


def _beside(rule: Limit, question: RulesQuestion) -> AnswerState:
    """How the kitchen's number stands to another rule."""
    own = _own(rule, question)
    if own is None:
        return "ask"
    return "would_meet" if strictness(own, rule) in ("stricter", "same") else "would_fail"


def _picture(question: RulesQuestion) -> tuple[ScalePicture, ...]:
    """Every rule that is one number, on one scale, with the kitchen's own on it."""
    known = [
        (set_id, entry, bound)
        for set_id in RULE_SET_IDS
        for entry in rule_set(set_id).entries_for(question.topic)
        if (bound := entry.limit.turns_on()) is not None
    ]
    if not known:
        return ()
    own, kind = _value(question), _kind(question.topic)
    ends = [bound for _, _, (bound, _) in known] + ([] if own is None else [own])
    room = max(0.15 * (max(ends) - min(ends)), 2.0 if kind == "temperature" else 0.15 * max(ends))
    low = min(ends) - room if kind == "temperature" else 0.0
    rows = [
        ScaleRow(
            words=say("bench.rules.upper_school", upper=set_id.upper(), school=entry.school),
            said=entry.limit.title,
            state=_beside(entry.limit, question),
            at=own,
            stretches=(Stretch(low=bound, high=max(ends) + room) if upward else Stretch(low=low, high=bound),),
        )
        for set_id, entry, (bound, upward) in known
    ]
    show = {"time": "h", "number": "d"}.get(kind, "")
    pointer = "" if own is None else say("bench.rules.our_own_limit")
    return (scales("rule_scales", kind, rows, show, (), (low, max(ends) + room), pointer=pointer),)


def _kind(topic: str) -> Kind:
    return "temperature" if topic in WARMTHS else "time" if topic in TIMES else "number"


def _verdict(question: RulesQuestion, rule: Limit, own: Limit | None) -> tuple[AnswerState, str, str]:
    if own is None:
        return "ask", say("bench.rules.the_rule", title=rule.title), rule.qualifier
    stands = strictness(own, rule)
    try:
        layered(rule_set(question.rule_set), (OwnRule(topic=question.topic, limit=own, reason=question.own_reason),))
    except RefusedError as error:
        return (
            "would_fail",
            say("bench.rules.your_is_looser_than", title=own.title, upper=question.rule_set.upper(), title2=rule.title),
            error.sentence,
        )
    if stands in ("stricter", "same"):
        return (
            "would_meet",
            say(f"bench.rules.your_{stands}", title=own.title, upper=question.rule_set.upper(), title2=rule.title),
            "",
        )
    return "ask", say("bench.rules.a_departure_from_with_the_reason", title=rule.title), question.own_reason


def _all(topic: str) -> Table:
    rows = [
        (
            set_id.upper(),
            entry.school,
            entry.limit.title,
            entry.limit.source.citation,
            entry.limit.source.tag.replace("_", " "),
        )
        for set_id in RULE_SET_IDS
        for entry in rule_set(set_id).entries_for(topic)
    ]
    head = (
        say("bench.rules.rules"),
        say("bench.rules.school"),
        say("bench.rules.limit"),
        say("bench.rules.source"),
        "",
    )
    return Table(title=say("bench.rules.every_rule_set"), head=head, rows=tuple(rows))
