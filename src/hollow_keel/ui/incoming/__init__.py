"""What a builder brings in: tables, drawings, meshes, pictures and logs, each shown before it is taken."""
