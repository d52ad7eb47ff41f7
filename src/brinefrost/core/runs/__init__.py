"""A batch is the fold of its append-only events."""
