"""Secrets that are tried first: NIST SP 800-63B, 5.1.1.2, asks that they be refused (from memory)."""

import re
from functools import cache
from importlib import resources
from itertools import pairwise

RUNS = ("abcdefghijklmnopqrstuvwxyz", "qwertyuiop", "asdfghjkl", "zxcvbnm", "01234567890", "azertyuiop", "qwertzuiop")
LEAST_LETTERS = 4  # different ones, in a password


def is_weak_password(password: str, name: str) -> bool:
    """Whether a password is on the list, one's own name, a repeat or a run of keys. Valid for any text."""
    plain = re.sub(r"[^\w]|_", "", password.lower())
    letters = re.sub(r"\d+", "", plain)
    own = {part for part in re.split(r"\W+", name.lower()) if len(part) > 2}
    if len(set(plain)) < LEAST_LETTERS or plain.isdigit():
        return True
    if _unit(plain) in _common() or letters in _common() or _unit(letters) in _common():
        return True
    rest = letters
    for part in own:
        rest = rest.replace(part, "")
    return len(rest) < LEAST_LETTERS or _is_run(plain) or len(_unit(plain)) * 2 <= len(plain)


def is_weak_pin(pin: str) -> bool:
    """Whether a PIN is one digit, a run, a pair or half repeated. Valid for digits."""
    steps = {int(b) - int(a) for a, b in pairwise(pin)}
    return len(set(pin)) == 1 or steps in ({1}, {-1}) or len(_unit(pin)) * 2 <= len(pin)


def _unit(text: str) -> str:
    """The shortest text of which the whole is a repeat."""
    for length in range(1, len(text) // 2 + 1):
        if len(text) % length == 0 and text[:length] * (len(text) // length) == text:
            return text[:length]
    return text


def _is_run(text: str) -> bool:
    return any(text in run * 2 or text in (run * 2)[::-1] for run in RUNS)


@cache
def _common() -> frozenset[str]:
    listed = resources.files(__package__).joinpath("weak_passwords.txt").read_text(encoding="utf-8")
    return frozenset(line.strip() for line in listed.splitlines() if line.strip() and not line.startswith("#"))
