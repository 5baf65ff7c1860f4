"""The stock as files: tables, plan file, paper."""
