"""What is known of single things in a kitchen: eggs, fish, jars, dates, instruments."""
