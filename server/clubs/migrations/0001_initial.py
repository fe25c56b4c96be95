import django.core.validators
import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):

    initial = True

    dependencies = [
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.CreateModel(
            name='Club',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('name', models.CharField(max_length=80)),
                ('adult_age', models.PositiveSmallIntegerField(default=16, help_text='from this age on an athlete is not treated as a child any more', validators=[django.core.validators.MinValueValidator(13), django.core.validators.MaxValueValidator(21)])),
                ('created', models.DateTimeField(auto_now_add=True)),
            ],
            options={
                'ordering': ['name', 'id'],
            },
        ),
        migrations.CreateModel(
            name='Membership',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('role', models.CharField(choices=[('head_coach', 'head coach'), ('coach', 'coach'), ('scorer', 'scorer'), ('athlete', 'athlete'), ('guardian', 'guardian')], max_length=10)),
                ('since', models.DateTimeField(auto_now_add=True)),
                ('club', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='memberships', to='clubs.club')),
                ('user', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='memberships', to=settings.AUTH_USER_MODEL)),
            ],
            options={
                'ordering': ['club__name', 'club', 'pk'],
                'constraints': [models.UniqueConstraint(fields=('club', 'user', 'role'), name='one_membership_a_role')],
            },
        ),
    ]
