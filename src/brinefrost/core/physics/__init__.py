"""Heat and the lethality it gives."""
