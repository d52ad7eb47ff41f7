"""Everything that people read: messages, amounts, catalogues, manners."""

from typing import Annotated

from brinefrost.core.words.amounts import (
    amount,
    apart,
    bare,
    bound,
    degree_hours,
    density,
    diff,
    duration,
    grams,
    height,
    kg,
    legal,
    mins,
    mm,
    moment,
    num,
    per_mass,
    percent,
    temp,
)
from brinefrost.core.words.kept import OWN_TITLES, title_of_own
from brinefrost.core.words.manner import HOUSE, LANGUAGES, PSEUDO, Language, Manner, current, manner_of, settle
from brinefrost.core.words.message import (
    Message,
    _NamedSchema,
    _WordsSchema,
    dictionary,
    joined,
    lowered,
    packed,
    raised,
    restored,
    said,
    say,
    unpacked,
)
from brinefrost.core.words.render import learn

Words = Annotated[str, _WordsSchema]  # read by somebody: given in their language and units
Named = Annotated[str, _NamedSchema]  # kept in a document: given in plain English, known again where it is read
STORED = {"stored": True}  # the context in which documents keep code and parameters

__all__ = [
    "HOUSE",
    "LANGUAGES",
    "OWN_TITLES",
    "PSEUDO",
    "STORED",
    "Language",
    "Manner",
    "Message",
    "Named",
    "Words",
    "amount",
    "apart",
    "bare",
    "bound",
    "current",
    "degree_hours",
    "density",
    "dictionary",
    "diff",
    "duration",
    "grams",
    "height",
    "joined",
    "kg",
    "learn",
    "legal",
    "lowered",
    "manner_of",
    "mins",
    "mm",
    "moment",
    "num",
    "packed",
    "per_mass",
    "percent",
    "raised",
    "restored",
    "said",
    "say",
    "settle",
    "temp",
    "title_of_own",
    "unpacked",
]  # fmt: skip
