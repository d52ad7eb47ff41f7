"""The Bench: questions people ask by hand, each answered with a verdict, figures, pictures and its working."""
