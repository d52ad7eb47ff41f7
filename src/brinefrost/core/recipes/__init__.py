"""Recipes read into plans: what was understood, assumed and left open."""
