"""The veneers as files: tables, plan file, paper."""
