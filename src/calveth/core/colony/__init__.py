"""The bees: how many, how warm, how much honey, how much water and breath."""
