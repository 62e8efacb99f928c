"""What is worked out of the open project: a graph of nodes, each with a state for every design."""
