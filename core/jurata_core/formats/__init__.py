"""The core's data in open formats."""
