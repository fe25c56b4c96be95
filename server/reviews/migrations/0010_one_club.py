from django.db import migrations

from config.one_club import CLIP, MATCH, one_club


class Migration(migrations.Migration):
    """What is cut for a match comes from a clip of its club."""

    dependencies = [('reviews', '0009_report_sent'), ('matches', '0019_one_club')]

    operations = [
        migrations.RunSQL('DELETE FROM reviews_cut k USING matches_match m, roster_athlete a, footage_clip c WHERE m.id = k.match_id AND a.id = m.athlete_id AND c.id = k.clip_id AND a.club_id <> c.club_id', migrations.RunSQL.noop),
        one_club('reviews_cut', MATCH, {'clip_id': CLIP}),
    ]
