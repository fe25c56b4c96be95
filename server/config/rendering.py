"""How answers are written: JSON by orjson, which takes a tenth of the standard library's time on a long verdict."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

import orjson
from rest_framework.renderers import JSONRenderer
from rest_framework.utils.encoders import JSONEncoder


class Json(JSONRenderer):
    charset = None

    def render(
        self, data: Any, accepted_media_type: str | None = None, renderer_context: Mapping[str, Any] | None = None
    ) -> bytes:
        if data is None:
            return b""
        try:
            return orjson.dumps(data, default=JSONEncoder().default, option=orjson.OPT_NON_STR_KEYS)
        except TypeError:  # half of a surrogate pair, which the standard library escapes
            written: bytes = super().render(data, accepted_media_type, renderer_context)
            return written
