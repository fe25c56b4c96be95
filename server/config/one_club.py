"""Constraints that PostgreSQL enforces: what refers to one another is of one club, whoever is in two of them."""

from __future__ import annotations

from collections.abc import Mapping

from django.db import migrations


def one_club(table: str, own: str, others: Mapping[str, str]) -> migrations.RunSQL:
    """A trigger for a table. ``own`` is the club of a row as an SQL expression over NEW; ``others``: column to the
    expression of the club of what it refers to, which has to be the same where the column is not null."""
    checks = "\n".join(
        f"IF NEW.{column} IS NOT NULL AND ({theirs}) IS DISTINCT FROM ({own}) THEN\n"
        f"  RAISE EXCEPTION '{table}.{column} is of another club' USING ERRCODE = 'check_violation';\n"
        f"END IF;"
        for column, theirs in others.items()
    )
    name = f"{table}_of_one_club"
    forwards = f"""
CREATE OR REPLACE FUNCTION {name}() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
{checks}
RETURN NEW;
END $$;
CREATE TRIGGER of_one_club BEFORE INSERT OR UPDATE OF {", ".join(sorted({*others, *columns_in(own)}))} ON {table}
FOR EACH ROW EXECUTE FUNCTION {name}();
"""
    return migrations.RunSQL(forwards, f"DROP TRIGGER of_one_club ON {table}; DROP FUNCTION {name}();")


def columns_in(expression: str) -> set[str]:
    """The columns of NEW that an expression uses."""
    return {word.split(")")[0].rstrip(",;") for word in expression.replace("(", " ").split("NEW.")[1:]}


def stays_in_its_club(table: str) -> migrations.RunSQL:
    """What a club owns does not move to another one."""
    name = f"{table}_stays"
    forwards = f"""
CREATE OR REPLACE FUNCTION {name}() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
IF NEW.club_id <> OLD.club_id THEN
  RAISE EXCEPTION '{table} stays in its club' USING ERRCODE = 'check_violation';
END IF;
RETURN NEW;
END $$;
CREATE TRIGGER stays BEFORE UPDATE OF club_id ON {table} FOR EACH ROW EXECUTE FUNCTION {name}();
"""
    return migrations.RunSQL(forwards, f"DROP TRIGGER stays ON {table}; DROP FUNCTION {name}();")


ATHLETE = "SELECT club_id FROM roster_athlete WHERE id = NEW.athlete_id"
CLIP = "SELECT club_id FROM footage_clip WHERE id = NEW.clip_id"
MATCH = "SELECT a.club_id FROM matches_match m JOIN roster_athlete a ON a.id = m.athlete_id WHERE m.id = NEW.match_id"
