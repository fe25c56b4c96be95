"""Object storage for tests: moto's server stands in for it, with a bucket of its own for each test."""

from __future__ import annotations

import logging
import uuid
from functools import cache
from typing import Any

import boto3
from botocore.config import Config
from django.conf import settings
from django.test import SimpleTestCase, override_settings
from moto.server import ThreadedMotoServer

NOWHERE = "http://127.0.0.1:9"
"""The port of the service that throws everything away: nobody listens there."""


@cache
def _server() -> str:
    """The address of the server of this process, which ends with it."""
    logging.getLogger("werkzeug").setLevel(logging.WARNING)  # a line for each request otherwise
    server = ThreadedMotoServer("127.0.0.1", 0)
    server.start()
    host, port = server.get_host_and_port()
    return f"http://{host}:{port}"


def place(bucket: str, endpoint: str | None = None) -> dict[str, Any]:
    """The settings of a bucket; without an address the stand-in's."""
    options = {
        "bucket_name": bucket, "endpoint_url": endpoint or _server(), "region_name": "us-east-1", "access_key": "a",
        "secret_key": "b", "client_config": Config(
            signature_version="s3v4", s3={"addressing_style": "path"}, connect_timeout=1, read_timeout=5,
            retries={"mode": "standard", "max_attempts": 1},
        ),
    }  # fmt: skip
    return {**settings.STORAGES, "clips": {"BACKEND": "storages.backends.s3.S3Storage", "OPTIONS": options}}


def bucket_for(test: SimpleTestCase, in_use: bool = True) -> Any:
    """A bucket for a test, in which clips are kept; it can be looked into."""
    name = f"clips-{uuid.uuid4()}"
    access = {"aws_access_key_id": "a", "aws_secret_access_key": "b", "region_name": "us-east-1"}
    made = boto3.resource("s3", endpoint_url=_server(), **access).create_bucket(Bucket=name)
    test.enterContext(override_settings(STORAGES=place(name), CLIPS_IN_STORAGE=in_use))
    return made


def names_in(bucket: Any) -> set[str]:
    return {one.key for one in bucket.objects.all()}
