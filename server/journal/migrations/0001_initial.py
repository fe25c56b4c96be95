from django.db import migrations, models

LOCK = """
CREATE FUNCTION journal_stays() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    RAISE EXCEPTION 'the journal is only added to';
END
$$;
CREATE TRIGGER journal_stays BEFORE UPDATE OR DELETE ON journal_entry
    FOR EACH ROW EXECUTE FUNCTION journal_stays();
"""
UNLOCK = "DROP TRIGGER journal_stays ON journal_entry; DROP FUNCTION journal_stays();"


class Migration(migrations.Migration):

    initial = True

    dependencies = []

    operations = [
        migrations.CreateModel(
            name='Entry',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('at', models.DateTimeField(auto_now_add=True, db_index=True)),
                ('user', models.BigIntegerField(help_text='the id of the account; null: nobody signed in', null=True)),
                ('name', models.CharField(help_text='how that account was called then', max_length=160)),
                ('club', models.BigIntegerField(db_index=True, help_text='the id of the club that it was about', null=True)),
                ('what', models.CharField(help_text='a stable word for what was done', max_length=40)),
                ('about', models.CharField(blank=True, help_text='to whom or to what, in words', max_length=300)),
                ('address', models.CharField(blank=True, help_text='from which network address', max_length=45)),
            ],
            options={
                'verbose_name_plural': 'entries',
                'ordering': ['-pk'],
            },
        ),
        migrations.RunSQL(LOCK, UNLOCK),
    ]
