"""The molds as files: tables, plan file, paper."""
