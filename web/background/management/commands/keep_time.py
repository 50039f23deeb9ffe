"""Starts what is due, each minute."""

import logging
import time

from django.core.management.base import BaseCommand
from django.db import DatabaseError, close_old_connections

from web.background.services import keep_time

logger = logging.getLogger(__name__)
EVERY_S = 60


class Command(BaseCommand):
    help = "Start background work that is due, and take up what a killed worker left, every minute until stopped."

    def handle(self, *args, **options):
        while True:
            try:
                keep_time()
            except DatabaseError:
                logger.exception("The scheduler missed a minute")
            close_old_connections()
            time.sleep(EVERY_S)
