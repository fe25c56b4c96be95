"""Make the project's database on its own server, where it is not there yet."""

import os
from pathlib import Path

import psycopg

password = (Path(os.environ["JURATA_DATA"]) / "db-password").read_text()
port = int(os.environ["JURATA_DB_PORT"])
with psycopg.connect(
    host="127.0.0.1", port=port, user="jurata", password=password, dbname="postgres", autocommit=True
) as server:
    if server.execute("select 1 from pg_database where datname = 'jurata'").fetchone() is None:
        server.execute("create database jurata")
