"""Whether a written reason says something: letters and words are counted, not what they say."""

import re

IDEOGRAPHS = re.compile(r"[㐀-鿿豈-﫿぀-ヿ가-힯]")  # written without spaces: two make a word


def says(text: str, letters: int, words: int) -> bool:
    """Whether a text has so many letters and so many different words.

    Valid for any text in any script; digits, marks and words of one letter over and over count
    for neither, and a word said again counts once. An ideograph counts as two letters.
    """
    found = IDEOGRAPHS.findall(text)
    spelled = IDEOGRAPHS.sub(" ", text)
    parts = {word for word in spelled.lower().split() if len({each for each in word if each.isalpha()}) >= 2}
    counted = sum(sum(map(str.isalpha, word)) for word in parts)
    return counted + 2 * len(found) >= letters and len(parts) + len(set(found)) // 2 >= words


def is_reason(text: str) -> bool:
    """Whether it is a reason for leaving something out of a plan, or for departing from a rule set: a few words.

    Valid for any text. Common practice, no source.
    """
    return says(text, 10, 2)
