"""A written reason is letters and words, in any script."""

import pytest

from brinefrost.core.reasons import is_reason, says


@pytest.mark.parametrize(
    ("text", "reason"),
    [
        ("", False),
        ("..........", False),
        ("1234567890 1234567890", False),
        ("aaaaaaaaaaaaaaa", False),
        ("no no no no no no", False),
        ("aaaa bbbb cccc dddd", False),
        ("xx yyyyyyyyyyyy zzz", False),
        ("Bought cooked.", True),
        ("Approved, file SR-7", True),
        ("Куплено готовым", True),
        ("买来时已煮熟，供应商有记录", True),
        ("煮熟煮熟煮熟煮熟煮熟", False),  # the same again and again
        ("加熱済みで購入した。", True),
        ("익힌 상태로 구입함", True),
    ],
)
def test_a_few_words_are_a_reason(text: str, reason: bool) -> None:
    assert is_reason(text) is reason


def test_a_release_asks_for_more_than_a_few() -> None:
    assert not says("Approved, file SR-7", 20, 4)
    assert says("Core at 63 °C for two hours by probe 3.", 20, 4)
    assert says("核心温度六十三度保持两小时，探针三号测得。", 20, 4)
    assert not says("好的好的好的好的好的好的", 20, 4)
