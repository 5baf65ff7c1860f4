"""The set-up as files: tables, plan file, paper."""
