"""The hive: said once as a design, turned into solids once."""
