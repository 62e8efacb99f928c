"""What leaves the program on paper or as pictures and tables."""
