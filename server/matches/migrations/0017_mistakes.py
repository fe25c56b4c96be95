from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('matches', '0016_figures'),
    ]

    operations = [
        migrations.AddField('match', 'source', models.CharField(blank=True, db_index=True, default='', help_text='of an imported match: the same for the same match again', max_length=64), preserve_default=False),
        migrations.RemoveField('summary', 'errors'),
        migrations.AddField('summary', 'outdated', models.BooleanField(default=False, help_text="whether the club's settings have changed since")),
        migrations.AddField('summary', 'mistakes', models.JSONField(default=list, help_text='the errors found in it, as a season counts them')),
        migrations.AddField('summary', 'costs', models.JSONField(help_text='what each error cost of the chance of winning, by its key; null: not calculated yet', null=True)),
        migrations.AlterField('summary', 'tried', models.JSONField(default=dict, help_text='of each move of the athlete, how often it worked and was tried')),
        migrations.AddField('clublesson', 'spreads', models.JSONField(help_text="how its athletes' shares are spread, by move; null: to be found", null=True)),
    ]
