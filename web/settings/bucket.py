"""Photos and archives in a bucket that speaks S3, for more than one web machine."""

from collections.abc import Mapping
from typing import Any

from botocore.config import Config

IN_MEMORY = 2**20  # what is larger is read through a file
# A page waits for the store no longer than somebody waits for a page; what is not kept is sent again by the device.
WAITS = Config(
    connect_timeout=3,
    read_timeout=15,
    retries={"max_attempts": 2},
    s3={"addressing_style": "path"},
    signature_version="s3v4",
    request_checksum_calculation="when_required",  # stores of other makes do not know the newer sums
    response_checksum_validation="when_required",
)


def bucket(environment: Mapping[str, str]) -> dict[str, Any]:
    """The storage that the environment names, for the settings."""
    return {
        "BACKEND": "storages.backends.s3.S3Storage",
        "OPTIONS": {
            "bucket_name": environment["RUDDY_BUCKET"],
            "endpoint_url": environment.get("RUDDY_BUCKET_ENDPOINT") or None,
            "region_name": environment.get("RUDDY_BUCKET_REGION") or None,
            "access_key": environment.get("RUDDY_BUCKET_KEY"),
            "secret_key": environment.get("RUDDY_BUCKET_SECRET"),
            "client_config": WAITS,
            "file_overwrite": True,
            "default_acl": None,
            "max_memory_size": IN_MEMORY,
        },
    }
