"""Lists a page at a time."""

from __future__ import annotations

from rest_framework.pagination import PageNumberPagination


class Pages(PageNumberPagination):
    page_size = 30
    page_size_query_param = "page_size"
    max_page_size = 100
