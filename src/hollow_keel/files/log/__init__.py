"""The log as files: tables, plan file, paper."""
