"""What goes wrong with the database."""

from brinefrost.core.errors import DomainError


class StoreDownError(DomainError, ConnectionError):
    """The database cannot be reached, or is held by somebody else for too long."""

    code = "store_down"
