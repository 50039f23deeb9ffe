"""Where the indoor unit stands."""

from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('houses', '0007_water_and_heating_plates'),
    ]

    operations = [
        migrations.AddField(
            model_name='system',
            name='indoor_place',
            field=models.CharField(blank=True, default='', max_length=20),
        ),
    ]
