from django.db import migrations

from config.one_club import CLIP, MATCH, one_club


class Migration(migrations.Migration):
    """A board is of a match and a clip of one club."""

    dependencies = [('boards', '0001_boards'), ('matches', '0019_one_club')]

    operations = [
        migrations.RunSQL('DELETE FROM boards_board b USING matches_match m, roster_athlete a, footage_clip c WHERE m.id = b.match_id AND a.id = m.athlete_id AND c.id = b.clip_id AND a.club_id <> c.club_id', migrations.RunSQL.noop),
        one_club('boards_board', MATCH, {'clip_id': CLIP}),
    ]
