"""The sheer and the ends as files: tables, plan file, paper."""
