"""What is known of foods: thermal values, what can surround them, ingredients and the hazards they bring."""
