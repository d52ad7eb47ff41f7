"""Bringing a database up to the version of the code. Run as ``python -m brinefrost.store.migrate``."""

import os
from pathlib import Path

from alembic import command
from alembic.config import Config


def config_for(url: str) -> Config:
    """Alembic's settings for one database."""
    config = Config()
    config.set_main_option("script_location", str(Path(__file__).parent / "migrations"))
    config.set_main_option("sqlalchemy.url", url.replace("%", "%%"))
    return config


def migrate(url: str) -> None:
    """Upgrade to the newest version; nothing happens when it is there already."""
    command.upgrade(config_for(url), "head")


if __name__ == "__main__":
    migrate(os.environ["BRINEFROST_DATABASE_URL"])
