"""The hive as solids: blocks, plates and bores, what is set into them, cut out and measured."""
