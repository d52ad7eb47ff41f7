"""The only place that knows SQL."""

from brinefrost.store.database import Database, Store

__all__ = ["Database", "Store"]
