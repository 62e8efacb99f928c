"""Tests of the diary: records, what was expected, what is due, logs, tests without bees."""
