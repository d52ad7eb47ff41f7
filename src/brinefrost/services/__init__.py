"""One use case, one transaction."""
