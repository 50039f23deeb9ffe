"""The words a house is found by, kept beside it, so that a search asks an index and never goes through all houses."""

from web.houses.models import House, HouseWord
from web.houses.querysets import initials_of, split

LEAST_TAIL = 3  # of a serial or model number its last characters are typed as often as its first


def words_of(house: House, systems) -> set[str]:
    """Every word by which a house is found: street, number, initials, customer; of its systems model and serial, by any
    end of them. systems: the house's.
    """
    found = {initials_of(house.name), *split(house.name), *split(house.customer)}
    for system in systems:
        for number in (system.model, system.indoor_model, system.serial, system.indoor_serial):
            for word in split(number):
                found |= {word} | {word[at:] for at in range(1, len(word) - LEAST_TAIL + 1)}
    return {word[: HouseWord.LONGEST] for word in found if word}


def note_words(house: House) -> None:
    """Keep the words of a house as it is now."""
    now, kept = words_of(house, house.systems.all()), dict(house.words.values_list("word", "pk"))
    house.words.filter(pk__in=[pk for word, pk in kept.items() if word not in now]).delete()
    new = [HouseWord(house=house, shop_id=house.shop_id, word=word) for word in sorted(now - kept.keys())]
    HouseWord.objects.bulk_create(new, ignore_conflicts=True)  # another change may keep the same word meanwhile
