"""Who may do what: one matrix of rights and roles. What each address asks for is in web/addresses.py; every change
asks again by itself (`web.accounts.access.need`).
"""

from dataclasses import dataclass

APPRENTICE, TECHNICIAN, LEAD, OFFICE = "apprentice", "technician", "lead", "office"
ROLES = {APPRENTICE: "Apprentice", TECHNICIAN: "Technician", LEAD: "Lead", OFFICE: "Office"}


@dataclass(frozen=True)
class Right:
    """Something that may be done, in words, and the roles that may."""

    words: str
    roles: tuple[str, ...]


EVERYBODY, AT_WORK = tuple(ROLES), (APPRENTICE, TECHNICIAN, LEAD)
READ, RECORD, WORK, INSTRUMENTS, FINISH = "read", "record", "work", "instruments", "finish"
PLAN, PAPERS, REGISTER, STOCK = "plan", "papers", "register", "stock"
OVERSEE, RULES, SHOP, PEOPLE, CUSTOMERS = "oversee", "rules", "shop", "people", "customers"
RIGHTS = {
    READ: Right("See houses, machines, visits and what is due", EVERYBODY),
    RECORD: Right("Enter houses, machines, plates and follow-ups", EVERYBODY),
    WORK: Right("Begin visits, take readings, note what is done, practise", AT_WORK),
    INSTRUMENTS: Right("Enter instruments and gateways", AT_WORK),
    FINISH: Right("Finish visits, seal baselines, say later whether a verdict was right", (TECHNICIAN, LEAD)),
    STOCK: Right("Enter cylinders and what becomes of them", (TECHNICIAN, LEAD, OFFICE)),
    PLAN: Right("Plan visits, move what is due", (TECHNICIAN, LEAD, OFFICE)),
    PAPERS: Right("Give customers the link to their page", (TECHNICIAN, LEAD, OFFICE)),
    REGISTER: Right("Take customers in from a spreadsheet, take the record of a house out", (LEAD, OFFICE)),
    OVERSEE: Right("Review visits, end baselines, see the lead's page", (LEAD,)),
    RULES: Right("Choose house rules, what is learnt, and judge again", (LEAD,)),
    CUSTOMERS: Right("Erase a customer, say how long customers are kept", (LEAD,)),
    SHOP: Right("The shop's settings, archives, tokens, background work; retire instruments and gateways", (LEAD,)),
    PEOPLE: Right("People, their roles and certificates", (LEAD,)),
}


def may(person, right: str) -> bool:
    """Whether a person of a shop may do this there."""
    return person.shop_id is not None and person.role in RIGHTS[right].roles


def roles_in_words(right: str) -> str:
    """Who may, for a sentence: 'technician or lead'."""
    names = [ROLES[role].lower() for role in RIGHTS[right].roles]
    return " or ".join(filter(None, (", ".join(names[:-1]), names[-1])))
