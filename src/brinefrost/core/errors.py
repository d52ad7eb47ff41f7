"""One tree of errors. Each carries a stable code and its fields; the edges turn them into statuses and words."""

from typing import Any


class DomainError(Exception):
    """Something the job's rules refuse, with a sentence that says what to do."""

    code = "domain_error"

    def __init__(self, sentence: str, **fields: Any) -> None:
        super().__init__(sentence)
        self.sentence = sentence
        self.fields = fields


class OutOfRangeError(DomainError, ValueError):
    """A number outside the range a model was made for."""

    code = "out_of_range"


class ImplausibleReadingError(DomainError, ValueError):
    """A reading no kitchen could have measured."""

    code = "implausible_reading"


class AskFirstError(DomainError, ValueError):
    """A reading that may be right but looks like a slip; it is kept once confirmed."""

    code = "ask_first"


class UnreadableFileError(DomainError, ValueError):
    """A file that cannot be read as a logger trace."""

    code = "unreadable_file"


class PlanIncompleteError(DomainError, ValueError):
    """A plan that cannot be proved or signed as it stands."""

    code = "plan_incomplete"


class NotFoundError(DomainError, LookupError):
    """Nothing is kept under that name."""

    code = "not_found"


class ConflictError(DomainError, RuntimeError):
    """Somebody else got there first; what is stored has moved on."""

    code = "conflict"


class NotAllowedError(DomainError, PermissionError):
    """The person's role does not cover this."""

    code = "not_allowed"


class SignInError(DomainError, PermissionError):
    """Name and secret do not fit, or there is no session."""

    code = "sign_in_needed"


class PasswordNeededError(DomainError, PermissionError):
    """A session opened by PIN logs; everything else wants the password."""

    code = "password_needed"


class TooManyTriesError(DomainError, PermissionError):
    """Too many wrong secrets in a short time."""

    code = "too_many_tries"


class RefusedError(DomainError, ValueError):
    """An action that the state of the batch or plan does not allow."""

    code = "refused"
