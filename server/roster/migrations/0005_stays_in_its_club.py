from django.db import migrations

from config.one_club import stays_in_its_club


class Migration(migrations.Migration):
    dependencies = [('roster', '0004_consent')]

    operations = [stays_in_its_club('roster_athlete')]
