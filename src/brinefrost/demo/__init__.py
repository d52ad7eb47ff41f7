"""Skarn Ridge Observatory, made up from end to end, built through the services from a fixed seed."""
