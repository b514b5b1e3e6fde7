"""Designs in SQLite: models, migrations, the repository."""
