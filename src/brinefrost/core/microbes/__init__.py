"""What grows, where, how fast, and the clocks kept on it."""
