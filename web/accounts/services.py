"""Changes a person makes to their own account."""


def set_temperatures(actor, scale: str) -> None:
    """How this person reads and types temperatures: 'F' or 'C'. Nothing stored is changed by it."""
    actor.temperatures = scale
    actor.save(update_fields=["temperatures"])
