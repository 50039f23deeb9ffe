"""The errors the engine raises: one family, each saying what is wrong in a technician's words."""


class EngineError(ValueError):
    """Anything the engine refuses to compute."""


class OutOfRange(EngineError):
    """A value outside the range a formula is stated for."""

    def __init__(self, name: str, value: float, unit: str, low: float, high: float):
        self.name, self.value, self.unit, self.low, self.high = name, value, unit, low, high
        super().__init__(f"{name} {value:g} {unit} is outside {low:g} to {high:g} {unit}")


class Impossible(EngineError):
    """Values that cannot be true together, such as a wet bulb above its dry bulb."""
