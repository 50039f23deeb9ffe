"""Where most of a shop's houses stand: what a new one starts from."""

from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('accounts', '0002_visit_in_order'),
    ]

    operations = [
        migrations.AddField(
            model_name='shop',
            name='altitude_ft',
            field=models.FloatField(blank=True, null=True),
        ),
        migrations.AddField(
            model_name='shop',
            name='climate',
            field=models.CharField(blank=True, default='', max_length=10),
        ),
    ]
