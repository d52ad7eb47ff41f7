"""The job itself: physics, limits, rules, plans and runs. No web, no database, no clock of its own."""
