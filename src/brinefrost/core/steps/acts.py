"""What a step does to food, in a few words: the one answer that hazards, order, days and cooks go by."""

from typing import Literal

Act = Literal[
    "receives",
    "seals",
    "heats",
    "cools",
    "keeps",
    "stores",
    "stores_frozen",
    "shelves",
    "jars",
    "reheats",
    "acidifies",
    "handles",
    "salts",
    "freezes",
    "holds",
    "dries",
    "smokes",
    "ripens",
    "thaws",
    "serves",
]
HOT: frozenset[Act] = frozenset({"heats", "holds"})  # what food leaves to fall
AT_ONCE_S = 60.0  # what is served is gone
CHANGING: frozenset[Act] = frozenset({"heats", "cools", "acidifies", "freezes", "salts", "dries", "smokes"})
LOOSE: frozenset[Act] = frozenset({"handles", "seals", "serves"})  # nothing keeps it hot or cold meanwhile
RIPENS: frozenset[Act] = frozenset({"ripens"})  # a warm stretch that answers for itself
COLD: frozenset[Act] = frozenset({"cools", "freezes"})  # what has brought it down
