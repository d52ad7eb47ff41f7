"""The figures, each against its yardstick in the same run."""
