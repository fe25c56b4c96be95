from django.db import migrations

from config.one_club import ATHLETE, one_club


class Migration(migrations.Migration):
    """An invitation is about an athlete of its club."""

    dependencies = [('clubs', '0004_initials'), ('roster', '0005_stays_in_its_club')]

    operations = [
        migrations.RunSQL('DELETE FROM clubs_invitation i USING roster_athlete a WHERE a.id = i.athlete_id AND a.club_id <> i.club_id', migrations.RunSQL.noop),
        one_club('clubs_invitation', 'NEW.club_id', {'athlete_id': ATHLETE}),
    ]
