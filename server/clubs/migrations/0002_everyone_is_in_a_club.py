from django.conf import settings
from django.db import migrations

from clubs.migrations._own_clubs import own_club


def enter(apps, schema_editor):
    """Second scorers become scorers of the clubs whose matches they score; whoever is left gets a club of their own."""
    Match, Membership = apps.get_model('matches', 'Match'), apps.get_model('clubs', 'Membership')
    second = Match.objects.exclude(second_of=None).exclude(scorer=None)
    for user, club in second.values_list('scorer', 'athlete__club').distinct():
        if not Membership.objects.filter(user=user, club=club).exists():
            Membership.objects.create(user_id=user, club_id=club, role='scorer')
    for user in apps.get_model('auth', 'User').objects.filter(memberships=None, is_active=True).order_by('pk'):
        own_club(apps, user)


class Migration(migrations.Migration):

    dependencies = [
        ('clubs', '0001_initial'),
        ('footage', '0007_clubs'),
        ('matches', '0013_clubs'),
        ('reviews', '0008_clubs'),
        ('roster', '0003_clubs'),
        ('rulebook', '0003_clubs'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.RunPython(enter, migrations.RunPython.noop),
    ]
