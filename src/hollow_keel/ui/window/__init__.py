"""The window: its menus, status line, order of work, and what all of its parts see of it."""
