from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("visits", "0005_weather_and_practice")]

    operations = [
        migrations.AlterField(model_name="assessment", name="headline", field=models.CharField(max_length=200)),
    ]
