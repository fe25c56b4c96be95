from django.db import migrations

from config.one_club import ATHLETE, one_club


class Migration(migrations.Migration):
    """An import is for an athlete of its club."""

    dependencies = [('seasons', '0001_initial'), ('roster', '0005_stays_in_its_club')]

    operations = [
        migrations.RunSQL('UPDATE seasons_import i SET athlete_id = NULL FROM roster_athlete a WHERE a.id = i.athlete_id AND a.club_id <> i.club_id', migrations.RunSQL.noop),
        one_club('seasons_import', 'NEW.club_id', {'athlete_id': ATHLETE}),
    ]
