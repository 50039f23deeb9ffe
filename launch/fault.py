"""A fault of the machine that the person at the terminal can act on: always one line."""


class LaunchFault(Exception):
    """What is wrong and what to do about it, in one line."""
