"""Brinefrost: hazard control plans for kitchens, and the records that show they were kept."""

__version__ = "0.29.0"
