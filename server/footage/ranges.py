"""Files of the clips' folder over HTTP, with ranges, so that a player can seek without loading the whole clip.

Behind the project's nginx only the permission is given here, and nginx sends the file: a player that is paused holds
no thread of the server. Without it, ranges are answered here (RFC 9110, section 14).
"""

from __future__ import annotations

import re
from collections.abc import Iterator
from email.utils import formatdate
from pathlib import Path
from urllib.parse import urlsplit

from django.conf import settings
from django.http import HttpRequest, HttpResponse, HttpResponseBase, StreamingHttpResponse

from config.refusals import NotThere

from . import object_storage, store

BLOCK = 256 * 1024
_RANGE = re.compile(r"bytes=(\d{0,18})-(\d{0,18})", re.ASCII)


def served(request: HttpRequest, path: Path, content_type: str) -> HttpResponseBase:
    """A file of the clips' folder, or the part of it that was asked for. Raises NotThere and StorageAway."""
    try:
        if settings.NGINX_SENDS_FILES:
            response: HttpResponseBase = HttpResponse(content_type=content_type)
            response["X-Accel-Redirect"] = _for_nginx(request, path, content_type)
        else:
            response = _ranged(request, store.at_hand(path), content_type)
    except FileNotFoundError:
        raise NotThere("gone", "This file is missing from the server. Upload the clip again.") from None
    response["Cache-Control"] = "private, max-age=3600"
    return response


def _for_nginx(request: HttpRequest, path: Path, content_type: str) -> str:
    """Where nginx finds a file: in the folder, or at an address of object storage that it alone asks."""
    if store.in_use():
        if request.headers.get("X-Storage-Refused"):  # nginx has been there with such an address
            object_storage.size_of(path.name)
            raise object_storage.StorageAway
        signed = urlsplit(object_storage.address_of(path.name, content_type, request.method or "GET"))
        return f"/stored-files{signed.path}?{signed.query}"
    path.stat()
    return f"/clip-files/{path.name}"


def _ranged(request: HttpRequest, path: Path, content_type: str) -> HttpResponseBase:
    """The file, or the one byte range asked for. Several ranges at once get the whole file."""
    stat = path.stat()
    size, modified = stat.st_size, formatdate(stat.st_mtime, usegmt=True)
    tag = f'"{stat.st_mtime_ns:x}-{size:x}"'
    start, end, status = 0, size - 1, 200
    asked = _RANGE.fullmatch(request.headers.get("Range", "").replace(" ", ""))
    if asked and request.headers.get("If-Range", tag) in (tag, modified) and asked.group(0) != "bytes=-":
        first, last = asked.groups()
        if first:
            start, end = int(first), min(int(last or size - 1), size - 1)
        else:
            start, end = max(0, size - int(last)), size - 1
        if start > end or start >= size:
            if first and last and int(last) < int(first):
                start, end = 0, size - 1  # not a range at all: RFC 9110 has it ignored
            else:
                return HttpResponse(status=416, headers={"Content-Range": f"bytes */{size}"})
        else:
            status = 206
    body = b"" if request.method == "HEAD" else _blocks(path, start, end - start + 1)
    response = StreamingHttpResponse(body, status=status, content_type=content_type)
    response["Content-Length"] = str(end - start + 1)
    response["Accept-Ranges"] = "bytes"
    response["ETag"] = tag
    response["Last-Modified"] = modified
    if status == 206:
        response["Content-Range"] = f"bytes {start}-{end}/{size}"
    return response


def _blocks(path: Path, start: int, length: int) -> Iterator[bytes]:
    with path.open("rb") as file:
        file.seek(start)
        while length > 0 and (block := file.read(min(BLOCK, length))):
            length -= len(block)
            yield block
