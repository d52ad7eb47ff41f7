"""Alembic's versions."""
