"""The planking as files: tables, plan file, paper."""
