"""What was built and seen held against what was expected, and what is due."""
