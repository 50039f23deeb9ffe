"""Sees that photos can be kept: run at the start, where they go into a bucket."""

import uuid

from botocore.exceptions import BotoCoreError, ClientError
from django.core.files.base import ContentFile
from django.core.files.storage import default_storage
from django.core.management.base import BaseCommand, CommandError

REMEDIES = {
    "NoSuchBucket": "make it, or set photos.bucket",
    "InvalidAccessKeyId": "set photos.key_id",
    "SignatureDoesNotMatch": "is the secret in photos.secret_file right?",
    "AccessDenied": "let this key read, write, list and delete there",
}


class Command(BaseCommand):
    help = "See that the store of photos takes a file and gives it back."

    def handle(self, *args, **options):
        name = f"check/{uuid.uuid4()}"
        try:
            default_storage.save(name, ContentFile(b"a plumb line"))
            with default_storage.open(name) as file:
                file.read()
            default_storage.listdir("check")
            default_storage.delete(name)
        except ClientError as error:
            code = error.response["Error"]["Code"]
            raise CommandError(
                f"Photos cannot be kept: the bucket says {code}: {REMEDIES.get(code, 'see its log')}."
            ) from error
        except BotoCoreError as error:  # it may come back: all else can be served
            self.stderr.write(f"The store of photos does not answer; they wait on the devices. ({error})")
