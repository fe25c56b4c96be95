from django.db import migrations

from config.one_club import ATHLETE, CLIP, MATCH, one_club

# What was let in before there was this rule: another club's clip is taken out of a match, which keeps its log.
REPAIR = """
UPDATE matches_match m SET clip_id = NULL, clip_start_ms = 0, opens_ms = 0, closes_ms = NULL
  FROM roster_athlete a, footage_clip c WHERE a.id = m.athlete_id AND c.id = m.clip_id AND a.club_id <> c.club_id;
DELETE FROM matches_furtherclip f USING matches_match m, roster_athlete a, footage_clip c
  WHERE m.id = f.match_id AND a.id = m.athlete_id AND c.id = f.clip_id AND a.club_id <> c.club_id;
"""
SHOWED = """
CREATE OR REPLACE FUNCTION clip_showed(clip uuid, athlete bigint) RETURNS void LANGUAGE sql AS $$
  INSERT INTO footage_clip_showed (clip_id, athlete_id)
  SELECT clip, id FROM roster_athlete WHERE id = athlete AND NOT practice AND clip IS NOT NULL
  ON CONFLICT DO NOTHING
$$;
CREATE OR REPLACE FUNCTION match_showed() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  PERFORM clip_showed(NEW.clip_id, NEW.athlete_id);
  PERFORM clip_showed(f.clip_id, NEW.athlete_id) FROM matches_furtherclip f WHERE f.match_id = NEW.id;
  RETURN NULL;
END $$;
CREATE OR REPLACE FUNCTION further_showed() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  PERFORM clip_showed(NEW.clip_id, m.athlete_id) FROM matches_match m WHERE m.id = NEW.match_id;
  RETURN NULL;
END $$;
CREATE TRIGGER showed AFTER INSERT OR UPDATE OF clip_id, athlete_id ON matches_match
  FOR EACH ROW EXECUTE FUNCTION match_showed();
CREATE TRIGGER showed AFTER INSERT OR UPDATE OF clip_id, match_id ON matches_furtherclip
  FOR EACH ROW EXECUTE FUNCTION further_showed();
SELECT clip_showed(clip_id, athlete_id) FROM matches_match;
SELECT clip_showed(f.clip_id, m.athlete_id) FROM matches_furtherclip f JOIN matches_match m ON m.id = f.match_id;
"""
UNSHOWED = """
DROP TRIGGER showed ON matches_match;
DROP TRIGGER showed ON matches_furtherclip;
DROP FUNCTION match_showed();
DROP FUNCTION further_showed();
DROP FUNCTION clip_showed(uuid, bigint);
"""
FIRST = (
    "SELECT a.club_id FROM matches_match m JOIN roster_athlete a ON a.id = m.athlete_id WHERE m.id = NEW.second_of_id"
)


class Migration(migrations.Migration):
    """A match and its clips are of one club, and a clip keeps whose matches it was used for."""

    dependencies = [('matches', '0018_records'), ('footage', '0008_showed')]

    operations = [
        migrations.RunSQL(REPAIR, migrations.RunSQL.noop),
        one_club('matches_match', ATHLETE, {'clip_id': CLIP, 'second_of_id': FIRST}),
        one_club('matches_furtherclip', MATCH, {'clip_id': CLIP}),
        one_club('footage_clip_showed', CLIP, {'athlete_id': ATHLETE}),
        migrations.RunSQL(SHOWED, UNSHOWED),
    ]
