"""The year under the cutaway."""
