"""What became of a verdict, recorded at closing or later."""

import uuid

from web.accounts.access import need
from web.accounts.rights import FINISH
from web.shell.once import keep_once
from web.visits.bridge import stored
from web.visits.bridge.results import LONGEST_HEADLINE
from web.visits.models import SEEN_BY, Outcome, Round

RIGHT, WRONG = "right", "wrong"


class OutcomeRefused(ValueError):
    """Why an outcome is not kept, in words for the person."""


def keep_outcome(actor, round_: Round, says: dict[str, str], number: uuid.UUID) -> Outcome:
    """Keep whether what was said of a round last was right. says: the fields of its form: 'did', 'by', 'was', 'words'.
    Raises OutcomeRefused, NumberUsed.
    """
    need(actor, FINISH, round_.visit.shop_id)
    did, by, was, words = (says.get(name, "").strip() for name in ("did", "by", "was", "words"))
    said = stored.told(round_.assessments.order_by("-id").values_list("result", flat=True).first())
    if said is None:
        raise OutcomeRefused("Nothing was told of this round that could be right or wrong.")
    if did not in (RIGHT, WRONG):
        raise OutcomeRefused("Say whether the verdict was right.")
    if by not in SEEN_BY:
        raise OutcomeRefused("Say how that was seen.")
    if did == WRONG and was not in stored.GROUPS and not words:
        raise OutcomeRefused("Say what it was.")
    if did == WRONG and was == said.group:
        raise OutcomeRefused("That is what the verdict said: then it was right.")
    row = Outcome(shop=round_.visit.shop, round=round_, person=actor, right=did == RIGHT, by=by, words=words[:300])
    row.was = was if did == WRONG and was in stored.GROUPS else ""
    row.engine_version, row.said_state, row.said_group = said.engine, said.state, said.group
    row.said_mode = said.mode
    row.said_headline, row.said_probability = said.headline[:LONGEST_HEADLINE], said.probability
    return keep_once(Outcome.objects.visible_to(actor), number, row, ("round_id", "right", "was"), row.save)
