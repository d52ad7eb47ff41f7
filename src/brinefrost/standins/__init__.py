"""Simulated devices that ship with Brinefrost: what a kitchen's own hubs, recorders and meters would deliver."""
