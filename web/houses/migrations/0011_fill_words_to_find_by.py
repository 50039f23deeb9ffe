"""Every house knows the words by which it is found."""

from django.db import migrations

from web.houses.search import words_of


def fill(apps, _editor):
    words = apps.get_model("houses", "HouseWord").objects
    for house in apps.get_model("houses", "House").objects.prefetch_related("systems").iterator(chunk_size=500):
        found = [words.model(house=house, shop_id=house.shop_id, word=word) for word in words_of(house, house.systems.all())]
        words.bulk_create(found, ignore_conflicts=True)


class Migration(migrations.Migration):
    dependencies = [("houses", "0010_words_to_find_by")]
    operations = [migrations.RunPython(fill, migrations.RunPython.noop)]
