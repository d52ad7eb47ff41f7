"""Whether a name is what it looks like: nothing unseen in it, and no letters borrowed from another script."""

import re
import unicodedata
from typing import Annotated

from pydantic import AfterValidator, Field

from brinefrost.core.words import say

UNSEEN = {"Cc", "Cf", "Co", "Cn", "Cs", "Zl", "Zp"}  # controls, direction marks, joiners without a glyph, separators
ALIKE = {"LATIN", "CYRILLIC", "GREEK"}  # scripts whose letters pass for one another's


def check_name(name: str) -> str:
    """The name in its one spelling (Unicode NFC), without spaces around it.

    Raises ValueError, with a sentence, for one with signs that nobody sees, or with letters of two scripts that look
    alike in one word: two people may not stand under what reads as one name. Valid for any script. Unicode UTS 39.
    """
    told = unicodedata.normalize("NFC", name).strip()
    if any(unicodedata.category(sign) in UNSEEN for sign in told):
        raise ValueError(say("core.names.sign_that_nobody_sees"))
    for word in re.split(r"[\W\d_]+", told):
        scripts = {unicodedata.name(sign, "").split(" ")[0] for sign in word}
        if len(scripts & ALIKE) > 1:
            raise ValueError(say("core.names.letters_of_two_scripts"))
    return told


Name = Annotated[str, Field(min_length=2, max_length=80, pattern=r"\S"), AfterValidator(check_name)]
