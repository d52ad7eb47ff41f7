"""The launcher's parts. Standard library only."""
