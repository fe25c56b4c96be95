from django.db import migrations

from config.one_club import one_club, stays_in_its_club


class Migration(migrations.Migration):
    """What is planned for an athlete is of the athlete's club."""

    dependencies = [('training', '0001_initial'), ('roster', '0005_stays_in_its_club')]

    operations = [
        migrations.RunSQL('DELETE FROM training_planned p USING training_plan l, roster_athlete a, training_drill d WHERE l.id = p.plan_id AND a.id = l.athlete_id AND d.id = p.drill_id AND a.club_id <> d.club_id', migrations.RunSQL.noop),
        stays_in_its_club('training_drill'),
        one_club(
            'training_planned',
            'SELECT a.club_id FROM training_plan p JOIN roster_athlete a ON a.id = p.athlete_id WHERE p.id = NEW.plan_id',
            {'drill_id': 'SELECT club_id FROM training_drill WHERE id = NEW.drill_id'},
        ),
    ]
