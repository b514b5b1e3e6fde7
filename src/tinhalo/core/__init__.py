"""The heart of Tin Halo: pure computation on plain data, without web, database or files of its own."""
