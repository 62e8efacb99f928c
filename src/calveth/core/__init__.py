"""The computation: values in, values out. No interface, no files, no database."""
