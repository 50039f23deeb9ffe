#!/usr/bin/env python
"""Django's command line. `./ruddy manage ...` sets the environment it needs."""

import sys

from django.core.management import execute_from_command_line

if __name__ == "__main__":
    execute_from_command_line(sys.argv)
