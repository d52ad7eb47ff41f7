"""Every ground that may be chosen has its words, and every limit of every rule set offers some that fit it."""

from datetime import UTC, datetime

import pytest

from brinefrost.core.errors import RefusedError
from brinefrost.core.rules import RULE_SET_IDS, rule_set
from brinefrost.core.runs.events import DeviationOpened
from brinefrost.core.runs.grounds import GROUNDS, OF_STEP, check_ground, ground_said, grounds_for, with_ground

NOON = datetime(2026, 11, 24, 12, tzinfo=UTC)
CHILLED, HEATED = "chilled_anew", "heated_again"


def opened(cause: str) -> DeviationOpened:
    return DeviationOpened(deviation="B-1-D1", step="chill", limit="x", cause=cause, sentence="x", at=NOON)  # type: ignore[arg-type]


def test_every_ground_has_words() -> None:
    assert len({str(ground_said(each)) for each in GROUNDS}) == len(GROUNDS)


@pytest.mark.parametrize("rules", RULE_SET_IDS)
def test_every_limit_offers_what_can_be_found_of_it(rules: str) -> None:
    for entry in rule_set(rules).entries:
        offered = grounds_for(opened("breach"), entry.limit)
        assert offered[-1] == "other"
        falls = entry.limit.falls_from_c is not None
        assert (CHILLED in offered) == (entry.limit.quantity == "core" and falls)
        assert (HEATED in offered) == (entry.limit.quantity == "core" and not falls)
    assert grounds_for(opened("skipped"), None) == OF_STEP


def test_what_none_of_them_says_is_told_at_length() -> None:
    offered = grounds_for(opened("too_short"), None)
    with pytest.raises(RefusedError):
        check_ground("other", offered, "It was quite all right.")
    check_ground("other", offered, "The unit's own log shows minus two degrees all night, copied here by hand.")
    check_ground("done_unlogged", offered, "")
    assert with_ground(None, "As it was.") == "As it was."
    assert str(with_ground("entry_wrong", "Typed 64 for 46.")).endswith("corrected. Typed 64 for 46.")
