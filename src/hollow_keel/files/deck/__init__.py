"""The deck as files: tables, plan file, paper."""
