"""What was each user's own becomes their club's: shared by the migrations that do so."""


def own_club(apps, user):
    """The club whose head coach a user is, founded where there is none yet. Returns its id."""
    Club, Membership = apps.get_model("clubs", "Club"), apps.get_model("clubs", "Membership")
    found = Membership.objects.filter(user=user, role="head_coach").order_by("pk").first()
    if found is not None:
        return found.club_id
    name = f"{user.first_name} {user.last_name}".strip() or user.username
    club = Club.objects.create(name=f"{name}'s club"[:80])
    Membership.objects.create(club=club, user=user, role="head_coach")
    return club.pk


def moving(app, model, after=None):
    """A step that gives every row of a model to its owner's club; ``after`` may do more with each owner's rows."""

    def move(apps, schema_editor):
        rows = apps.get_model(app, model)
        User = apps.get_model("auth", "User")
        for owner in User.objects.filter(pk__in=rows.objects.values("owner")).order_by("pk"):
            own = rows.objects.filter(owner=owner)
            own.update(club=own_club(apps, owner))
            if after is not None:
                after(own, owner)
        schema_editor.execute("SET CONSTRAINTS ALL IMMEDIATE")  # the table is altered next

    return move
