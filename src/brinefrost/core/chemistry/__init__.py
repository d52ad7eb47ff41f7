"""Acid, salt, cure and water activity."""
