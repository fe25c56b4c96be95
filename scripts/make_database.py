"""Make the project's database on its own server, and the role that the product uses there, which is no superuser.

An installation from before that rule, whose role made the server and so rules it, is changed over.
"""

from __future__ import annotations

import argparse
import os
from pathlib import Path

import psycopg
from psycopg import sql

ADMIN, ROLE, DATABASE = "jurata_admin", "jurata", "jurata"
SCRATCH = "jurata_check"
"""Into it each backup is restored, to see that it is equal."""
FOLDER = Path(os.environ["JURATA_DATA"])


def connect(user: str, password: str, database: str = "postgres") -> psycopg.Connection:
    port = int(os.environ["JURATA_DB_PORT"])
    return psycopg.connect(host="127.0.0.1", port=port, user=user, password=password, dbname=database, autocommit=True)


def give_up_the_rule(password: str, admin_password: str) -> None:
    """Rename the role that made the server to the administrator's, and own the database by a role without rights.

    A role can't rename itself, hence the one in between.
    """
    between = sql.Identifier("jurata_between")
    with connect(ROLE, password) as server:
        server.execute(sql.SQL("drop role if exists {}").format(between))
        server.execute(sql.SQL("create role {} superuser login password {}").format(between, admin_password))
    with connect("jurata_between", admin_password) as server:
        server.execute(sql.SQL("alter role {} rename to {}").format(sql.Identifier(ROLE), sql.Identifier(ADMIN)))
        server.execute(sql.SQL("alter role {} password {}").format(sql.Identifier(ADMIN), admin_password))
    with connect(ADMIN, admin_password) as server:
        server.execute(sql.SQL("drop role {}").format(between))


def own_everything(admin_password: str) -> None:
    """Give the role all that is in the database, where another one owns it."""
    kinds = {"r": "table", "p": "table", "v": "view", "S": "sequence"}
    role = sql.Identifier(ROLE)
    with connect(ADMIN, admin_password, DATABASE) as server:
        server.execute(sql.SQL("alter schema public owner to {}").format(role))
        foreign = (
            "select c.relname, c.relkind::text from pg_class c join pg_namespace n on n.oid = c.relnamespace "
            "where n.nspname = 'public' and c.relkind in ('r', 'p', 'v', 'S') and c.relowner <> %s::regrole "
            "order by c.relkind = 'S'"  # a table takes the sequences of its columns along
        )
        for name, kind in server.execute(foreign, [ROLE]).fetchall():
            what = sql.SQL(kinds[kind])
            server.execute(sql.SQL("alter {} {} owner to {}").format(what, sql.Identifier(name), role))
        types = (
            "select t.typname from pg_type t join pg_namespace n on n.oid = t.typnamespace "
            "where n.nspname = 'public' and t.typtype = 'e' and t.typowner <> %s::regrole"
        )
        for (name,) in server.execute(types, [ROLE]).fetchall():
            server.execute(sql.SQL("alter type {} owner to {}").format(sql.Identifier(name), role))
        functions = (
            "select p.oid::regprocedure::text from pg_proc p join pg_namespace n on n.oid = p.pronamespace "
            "where n.nspname = 'public' and p.proowner <> %s::regrole"
        )
        for (signature,) in server.execute(functions, [ROLE]).fetchall():
            server.execute(sql.SQL("alter function {} owner to {}").format(sql.SQL(signature), role))


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--for-tests", action="store_true", help="let the role make databases, as test runners do")
    for_tests = parser.parse_args().for_tests
    password = (FOLDER / "db-password").read_text()
    admin_password = (FOLDER / "db-admin-password").read_text()
    try:
        connect(ADMIN, admin_password).close()
    except psycopg.OperationalError:
        give_up_the_rule(password, admin_password)
    with connect(ADMIN, admin_password) as server:
        if server.execute("select 1 from pg_roles where rolname = %s", [ROLE]).fetchone() is None:
            server.execute(sql.SQL("create role {} login password {}").format(sql.Identifier(ROLE), password))
        can = sql.SQL("createdb" if for_tests else "nocreatedb")
        server.execute(sql.SQL("alter role {} nosuperuser nocreaterole {}").format(sql.Identifier(ROLE), can))
        for name in (DATABASE, SCRATCH):
            both = sql.Identifier(name), sql.Identifier(ROLE)
            if server.execute("select 1 from pg_database where datname = %s", [name]).fetchone() is None:
                server.execute(sql.SQL("create database {} owner {}").format(*both))
            server.execute(sql.SQL("alter database {} owner to {}").format(*both))
    own_everything(admin_password)


if __name__ == "__main__":
    main()
