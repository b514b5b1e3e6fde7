"""Alembic's entry point. The application hands its connection over; the command line opens one."""

from alembic import context
from sqlalchemy import create_engine

from tinhalo.store.models import Base

connection = context.config.attributes.get("connection")
if connection is None:
    connection = create_engine(context.get_x_argument(as_dictionary=True).get("url", "sqlite://")).connect()

context.configure(connection=connection, target_metadata=Base.metadata, render_as_batch=True)
with context.begin_transaction():
    context.run_migrations()
