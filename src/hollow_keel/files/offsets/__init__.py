"""The offsets as files: tables, plan file, paper."""
