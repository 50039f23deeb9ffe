"""What each address asks of who opens it: a right to look (GET) and a right to change (POST). Who has which right is in
web/accounts/rights.py. An address that is not here opens for nobody.
"""

from web.accounts.rights import (
    CUSTOMERS,
    FINISH,
    INSTRUMENTS,
    OVERSEE,
    PAPERS,
    PEOPLE,
    PLAN,
    READ,
    RECORD,
    REGISTER,
    RULES,
    SHOP,
    STOCK,
    WORK,
)  # fmt: skip

ANYBODY = "anybody"  # no sign-in: the door itself, and what a secret in the address or the header opens
SIGNED_IN = "signed in"  # a person's own

# fmt: off
ADDRESSES = {
    # name                          to look     to change
    "shell:alive":                (ANYBODY,    ANYBODY),
    "shell:ready":                (ANYBODY,    ANYBODY),
    "shell:counters":             (ANYBODY,    ANYBODY),
    "accounts:sign_in":            (ANYBODY,    ANYBODY),
    "accounts:forgotten":          (ANYBODY,    ANYBODY),
    "accounts:second":             (ANYBODY,    ANYBODY),
    "accounts:come_in":            (ANYBODY,    ANYBODY),
    "exchange:customer":           (ANYBODY,    ANYBODY),
    "history:feed":                (ANYBODY,    ANYBODY),
    "probes:samples":              (ANYBODY,    ANYBODY),

    "today:today":                 (SIGNED_IN,  SIGNED_IN),
    "accounts:sign_out":           (SIGNED_IN,  SIGNED_IN),
    "accounts:preferences":        (SIGNED_IN,  SIGNED_IN),
    "accounts:second_factor":      (SIGNED_IN,  SIGNED_IN),
    "accounts:sessions":           (SIGNED_IN,  SIGNED_IN),
    "accounts:password":           (SIGNED_IN,  SIGNED_IN),
    "accounts:email":              (SIGNED_IN,  SIGNED_IN),

    "accounts:shop":               (READ,       SHOP),
    "accounts:people":             (PEOPLE,     PEOPLE),
    "accounts:change_person":      (PEOPLE,     PEOPLE),
    "accounts:end_door":           (PEOPLE,     PEOPLE),

    "exchange:stored":             (CUSTOMERS,  CUSTOMERS),
    "exchange:erase":              (CUSTOMERS,  CUSTOMERS),

    "houses:list":                 (READ,       READ),
    "houses:house":                (READ,       READ),
    "houses:new":                  (RECORD,     RECORD),
    "houses:edit":                 (RECORD,     RECORD),
    "houses:add_system":           (RECORD,     RECORD),
    "houses:system":               (RECORD,     RECORD),
    "houses:plate_help":           (RECORD,     RECORD),
    "houses:rooms":                (RECORD,     RECORD),
    "houses:tables":               (RECORD,     RECORD),
    "houses:tables_of":            (RECORD,     RECORD),
    "houses:check_table":          (RECORD,     RECORD),
    "houses:instruments":          (READ,       READ),
    "houses:new_instrument":       (INSTRUMENTS, INSTRUMENTS),
    "houses:instrument":           (INSTRUMENTS, INSTRUMENTS),
    "probes:gateways":             (READ,       INSTRUMENTS),
    "probes:heard":                (READ,       READ),
    "probes:revoke":               (SHOP,       SHOP),

    "visits:sheet":                (READ,       READ),
    "visits:round":                (READ,       READ),
    "visits:current":              (READ,       READ),
    "visits:live":                 (READ,       READ),
    "visits:preview":              (READ,       READ),
    "visits:what_if":              (READ,       READ),
    "visits:what_if_past":         (READ,       READ),
    "visits:of_system":            (READ,       READ),
    "visits:plates_of":            (READ,       READ),
    "visits:photo":                (READ,       READ),
    "visits:entries":              (WORK,       READ),  # each entry is asked by itself, and answered by itself
    "visits:start":                (WORK,       WORK),
    "visits:next_round":           (WORK,       WORK),
    "visits:hand_over":            (WORK,       WORK),
    "visits:pair":                 (WORK,       WORK),
    "visits:add_photo":            (WORK,       WORK),
    "visits:add_nameplate":        (RECORD,     RECORD),
    "visits:open_follow_up":       (RECORD,     RECORD),
    "visits:close_follow_up":      (RECORD,     RECORD),
    "practice:houses":             (WORK,       WORK),
    "practice:panel":              (WORK,       WORK),
    "practice:look":               (WORK,       WORK),
    "practice:turn":               (WORK,       WORK),
    "practice:forward":            (WORK,       WORK),

    "history:system":              (READ,       READ),
    "history:csv":                 (READ,       READ),
    "history:said":                (READ,       FINISH),
    "history:right":               (OVERSEE,    OVERSEE),
    "history:due":                 (READ,       PLAN),
    "history:plan":                (READ,       PLAN),
    "history:plan_event":          (READ,       READ),
    "history:plan_new":            (PLAN,       PLAN),
    "history:plan_ahead":          (PLAN,       PLAN),
    "history:calendar":            (READ,       READ),
    "history:refrigerant":         (READ,       READ),
    "history:refrigerant_csv":     (READ,       READ),
    "history:cylinders":           (READ,       STOCK),
    "history:cylinder":            (READ,       STOCK),
    "history:deeds":               (PEOPLE,     PEOPLE),
    "history:lead":                (OVERSEE,    OVERSEE),
    "history:lead_visits":         (OVERSEE,    OVERSEE),
    "history:lead_csv":            (OVERSEE,    OVERSEE),

    "exchange:report":             (READ,       READ),
    "exchange:panel":              (READ,       READ),
    "exchange:bundle":             (READ,       READ),
    "exchange:links":              (PAPERS,     PAPERS),
    "exchange:end_link":           (PAPERS,     PAPERS),
    "exchange:registers":          (REGISTER,   REGISTER),
    "exchange:register":           (REGISTER,   REGISTER),
    "exchange:system_archive":     (REGISTER,   REGISTER),
    "exchange:house_archive":      (REGISTER,   REGISTER),
    "exchange:archives":           (SHOP,       SHOP),
    "exchange:start_archive":      (SHOP,       SHOP),
    "exchange:start_narrowed":     (SHOP,       SHOP),
    "exchange:start_reports":      (SHOP,       SHOP),
    "exchange:shop_archive":       (SHOP,       SHOP),
    "exchange:tokens":             (SHOP,       SHOP),
    "exchange:revoke_token":       (SHOP,       SHOP),

    "houserules:rules":            (READ,       RULES),
    "houserules:change":           (RULES,      RULES),
    "kinds:page":                  (RULES,      RULES),
    "kinds:learn_now":             (RULES,      RULES),
    "kinds:leave_out":             (RULES,      RULES),
    "kinds:take_back":             (RULES,      RULES),
    "kinds:file":                  (RULES,      RULES),
    "reassess:page":               (RULES,      RULES),
    "reassess:trial":              (RULES,      RULES),
    "reassess:result":             (RULES,      RULES),
    "background:page":             (SHOP,       SHOP),
    "background:listed":           (SHOP,       SHOP),
    "background:stop":             (SHOP,       SHOP),
    "background:go_on":            (SHOP,       SHOP),
    "background:progress":         (SHOP,       SHOP),
}
# fmt: on
BY_TOKEN = "api"  # the interface for other programs: its token says what it may read
HOST = "admin"  # the pages of the host's own staff, which ask by themselves: see web/accounts/admin.py


def asked_at(name: str, method: str) -> str | None:
    """The right that an address asks for, ANYBODY or SIGNED_IN; None where nobody may."""
    if name.startswith((f"{BY_TOKEN}:", f"{HOST}:")):
        return ANYBODY
    to_look, to_change = ADDRESSES.get(name, (None, None))
    return to_look if method in ("GET", "HEAD", "OPTIONS") else to_change
