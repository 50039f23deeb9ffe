"""Puts the photos of a folder into the store: after a restore, or when photos move into a bucket."""

from pathlib import Path

from django.core.management.base import BaseCommand

from web.visits.changes.picture_files import give


class Command(BaseCommand):
    help = "Put the photos under FOLDER/photos into the bucket that the configuration names, those that it has not."

    def add_arguments(self, parser):
        parser.add_argument("folder", type=Path)

    def handle(self, *args, folder, **options):
        self.stdout.write(f"{give(folder)} photo files put into the store.")
