from django.db import migrations

STAYS = """
CREATE OR REPLACE FUNCTION journal_stays() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    IF TG_OP = 'DELETE' AND OLD.at < now() - interval '730 days' THEN
        RETURN OLD;
    END IF;
    RAISE EXCEPTION 'the journal is only added to';
END
$$;
"""
BEFORE = """
CREATE OR REPLACE FUNCTION journal_stays() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    RAISE EXCEPTION 'the journal is only added to';
END
$$;
"""


class Migration(migrations.Migration):
    """A line may be deleted two years after it was written, and not before."""

    dependencies = [('journal', '0001_initial')]

    operations = [migrations.RunSQL(STAYS, BEFORE)]
