from django.db import migrations

from config.one_club import ATHLETE, MATCH, one_club, stays_in_its_club


class Migration(migrations.Migration):
    """A fight is of its day's club."""

    dependencies = [('events', '0001_initial'), ('matches', '0019_one_club')]

    operations = [
        migrations.RunSQL('DELETE FROM events_fight f USING events_eventday d, roster_athlete a WHERE d.id = f.day_id AND a.id = f.athlete_id AND a.club_id <> d.club_id', migrations.RunSQL.noop),
        stays_in_its_club('events_eventday'),
        one_club(
            'events_fight',
            'SELECT club_id FROM events_eventday WHERE id = NEW.day_id',
            {'athlete_id': ATHLETE, 'match_id': MATCH},
        ),
    ]
