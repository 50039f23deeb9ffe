"""Makes a folder hold all photos, for a backup of those that lie in a bucket."""

from pathlib import Path

from django.core.management.base import BaseCommand

from web.visits.changes.picture_files import mirror


class Command(BaseCommand):
    help = "Fetch the photos that a folder has not yet, and take away there what is on record no more."

    def add_arguments(self, parser):
        parser.add_argument("folder", type=Path)

    def handle(self, *args, folder, **options):
        fetched, gone, lost = mirror(folder)
        self.stdout.write(f"{fetched} photo files fetched, {gone} gone.")
        if lost:
            self.stderr.write(f"{lost} photo files on record are missing from the store; they are in {folder}.")
            self.stderr.write(f"To put them back: ./ruddy manage give_photos {folder}")
