"""Who may do what in a bench's own PostgreSQL: passwords, roles, and the change from a
cluster that trusted everybody.

``keeper`` is the cluster's superuser, for the launcher alone. ``app`` owns what lies in
the application's schema and no more: it can make neither roles nor databases. ``tests``
may make databases, which is what tests and benchmarks do.
"""

from __future__ import annotations

import json
import os
import secrets
from dataclasses import dataclass
from pathlib import Path

import psycopg
from psycopg import sql

KEEPER, APP, TESTS = "keeper", "app", "tests"
SETTING_UP = 7_310_441  # an advisory lock's number: any, the same everywhere
DATABASE = "glenhail"
# Whoever connects, over the socket or the loopback address, shows a password.
HBA = """# Written by Glenhail's launcher.
local all all scram-sha-256
host all all 127.0.0.1/32 scram-sha-256
host all all ::1/128 scram-sha-256
"""


@dataclass(frozen=True)
class Passwords:
    """One for each role."""

    keeper: str
    app: str
    tests: str


def passwords(path: Path) -> Passwords:
    """Those of a bench; made when they are first asked for, and readable by the bench's
    own account alone.
    """
    if not path.exists():
        path.parent.mkdir(parents=True, exist_ok=True)
        new = path.with_suffix(".new")
        new.unlink(missing_ok=True)
        with os.fdopen(os.open(new, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600), "w") as file:
            json.dump({role: secrets.token_urlsafe(24) for role in (KEEPER, APP, TESTS)}, file)
        new.replace(path)
    return Passwords(**json.loads(path.read_text()))


def connect(port: int, user: str, password: str, database: str = "postgres") -> psycopg.Connection:
    """A connection of its own, outside any transaction."""
    return psycopg.connect(
        host="127.0.0.1",
        port=port,
        user=user,
        password=password,
        dbname=database,
        autocommit=True,
        connect_timeout=10,
    )


def set_up(port: int, known: Passwords) -> None:
    """Roles with their rights, and the database with its schema; done before, it is
    only looked over.
    """
    with connect(port, KEEPER, known.keeper) as link:
        # Two launchers at once, tests beside the demo, would change the same roles: the second
        # waits until the first is done. The lock ends with the connection.
        link.execute("SELECT pg_advisory_lock(%s)", [SETTING_UP])
        _make_roles(link, known)
        _make_database(link)
        with connect(port, KEEPER, known.keeper, DATABASE) as inside:
            inside.execute(sql.SQL("ALTER SCHEMA public OWNER TO {}").format(sql.Identifier(APP)))
            inside.execute("REVOKE ALL ON SCHEMA public FROM PUBLIC")


def _make_roles(link: psycopg.Connection, known: Passwords) -> None:
    for role, password, rights in (
        (APP, known.app, "NOCREATEDB"),
        (TESTS, known.tests, "CREATEDB"),
    ):
        exists = link.execute("SELECT 1 FROM pg_roles WHERE rolname = %s", [role]).fetchone()
        verb = sql.SQL("ALTER" if exists else "CREATE")
        plain = sql.SQL(
            "ROLE {} LOGIN NOSUPERUSER NOCREATEROLE NOREPLICATION NOBYPASSRLS "
            + rights
            + " PASSWORD {}"
        )
        link.execute(
            sql.SQL("{} {}").format(verb, plain.format(sql.Identifier(role), sql.Literal(password)))
        )


def _make_database(link: psycopg.Connection) -> None:
    name = sql.Identifier(DATABASE)
    if not link.execute("SELECT 1 FROM pg_database WHERE datname = %s", [DATABASE]).fetchone():
        link.execute(sql.SQL("CREATE DATABASE {}").format(name))
    link.execute(sql.SQL("REVOKE ALL ON DATABASE {} FROM PUBLIC").format(name))
    link.execute(
        sql.SQL("GRANT CONNECT, TEMPORARY ON DATABASE {} TO {}").format(name, sql.Identifier(APP))
    )


# What lay in the application's schema while `app` was the superuser; members of extensions stay
# what they are.
OWNED = """
SELECT format('ALTER %s public.%I OWNER TO app',
  CASE c.relkind WHEN 'S' THEN 'SEQUENCE' WHEN 'v' THEN 'VIEW' ELSE 'TABLE' END,
              c.relname)
FROM pg_class c
WHERE c.relnamespace = 'public'::regnamespace AND c.relkind IN ('r', 'p', 'v', 'S')
  AND NOT EXISTS (
    SELECT 1 FROM pg_depend d WHERE d.classid = 'pg_class'::regclass
      AND d.objid = c.oid AND d.deptype IN ('a', 'i'))
UNION ALL
SELECT format('ALTER ROUTINE %s OWNER TO app', p.oid::regprocedure)
  FROM pg_proc p WHERE p.pronamespace = 'public'::regnamespace
UNION ALL
SELECT format('ALTER TYPE public.%I OWNER TO app', t.typname) FROM pg_type t
WHERE t.typnamespace = 'public'::regnamespace AND (t.typtype = 'e' OR t.typtype = 'c' AND
  EXISTS (SELECT 1 FROM pg_class c WHERE c.oid = t.typrelid AND c.relkind = 'c'))
"""
HELPER = "taking_over"


def take_over(port: int, known: Passwords) -> None:
    """From a cluster whose superuser was `app`, and which trusted everybody on this
    machine, to one with passwords.

    The first superuser can not be made less, so it becomes the keeper, and a new `app`
    gets what it had.
    """
    if not _lets_in(port, KEEPER):
        password = secrets.token_urlsafe(24)
        with psycopg.connect(
            host="127.0.0.1", port=port, user=APP, dbname="postgres", autocommit=True
        ) as link:
            link.execute(sql.SQL("DROP ROLE IF EXISTS {}").format(sql.Identifier(HELPER)))
            link.execute(
                sql.SQL("CREATE ROLE {} LOGIN SUPERUSER PASSWORD {}").format(
                    sql.Identifier(HELPER), sql.Literal(password)
                )
            )
        with connect(port, HELPER, password) as link:
            link.execute(
                sql.SQL("ALTER ROLE {} RENAME TO {}").format(*map(sql.Identifier, (APP, KEEPER)))
            )
    with connect(port, KEEPER, known.keeper) as link:
        link.execute(
            sql.SQL("ALTER ROLE {} PASSWORD {}").format(
                sql.Identifier(KEEPER), sql.Literal(known.keeper)
            )
        )
    set_up(port, known)
    with connect(port, KEEPER, known.keeper, DATABASE) as link:
        for (change,) in link.execute(OWNED).fetchall():
            link.execute(change)
        link.execute(sql.SQL("DROP ROLE IF EXISTS {}").format(sql.Identifier(HELPER)))


def _lets_in(port: int, role: str) -> bool:
    """Whether a cluster that trusts everybody knows a role: taking over was broken off
    after that.
    """
    try:
        connect(port, role, "any").close()
    except psycopg.OperationalError:
        return False
    return True
