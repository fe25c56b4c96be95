"""Ends what takes too long in whichever thread it runs, also where it never looks whether to go on.

An exception is raised in the thread between two instructions of Python, and again each second until it is out of there.
"""

from __future__ import annotations

import ctypes
import logging
import threading
import time
from collections.abc import Callable
from types import TracebackType

from django.db import connections
from django.http import HttpRequest, HttpResponseBase

from .refusals import NotNow

LOOKS_EVERY_S = 1.0
MOST_PROCESSOR_S = 30
"""So many seconds of the processor one request may take; waiting for a slow client or the database is not counted."""
log = logging.getLogger(__name__)


class TookTooLong(NotNow):
    """A request that was ended, since it kept others waiting."""

    def __init__(self) -> None:
        message = "That took longer than one request may, so it was ended and nothing was kept. Ask for less at a time."
        super().__init__("too_long", message)


class Watched:
    """A block of work in this thread; another thread asks each second whether it is overdue, and raises an error in it.

    Its database connections are closed where that happened: a statement may have been under way.
    """

    def __init__(self, overdue: Callable[[], bool], error: type[Exception]) -> None:
        self.overdue, self.error, self.raised = overdue, error, False
        self.ident = threading.get_ident()

    def __enter__(self) -> Watched:
        try:
            with _lock:
                _watched.add(self)
                if not _watching or not _watching[0].is_alive():  # the first time, also in a process that was forked
                    _watching[:] = [threading.Thread(target=_watch, name="interrupting", daemon=True)]
                    _watching[0].start()
        except self.error:  # overdue before it had begun: nobody else would take it out
            self.__exit__(None, None, None)
            raise
        return self

    def __exit__(self, kind: type[BaseException] | None, error: BaseException | None, at: TracebackType | None) -> None:
        while self in _watched:
            try:
                with _lock:  # after this nothing is raised; what was raised and not yet noticed is taken back
                    _watched.discard(self)
                    _raise_in(self.ident, None)
            except self.error:
                pass
        if self.raised:
            connections.close_all()


_watched: set[Watched] = set()
_lock = threading.Lock()
_watching: list[threading.Thread] = []


def _watch() -> None:
    while True:
        time.sleep(LOOKS_EVERY_S)
        for one in tuple(_watched):
            try:
                if not one.overdue():
                    continue
            except Exception:  # the database may be away: it is asked again
                log.warning("It could not be asked whether a piece of work is overdue", exc_info=True)
                continue
            with _lock:
                if one in _watched:
                    one.raised = True
                    _raise_in(one.ident, one.error)


def _raise_in(ident: int, error: type[Exception] | None) -> None:
    ctypes.pythonapi.PyThreadState_SetAsyncExc(ctypes.c_ulong(ident), error and ctypes.py_object(error))


def processor_s(ident: int) -> float:
    """How many seconds of the processor a thread has taken since it began."""
    return time.clock_gettime(time.pthread_getcpuclockid(ident))


class EndsLongRequests:
    """Middleware: a request that has the processor for too long is ended, and answered as one that came too early."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponseBase]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponseBase:
        ident = threading.get_ident()
        until = processor_s(ident) + MOST_PROCESSOR_S
        with Watched(lambda: processor_s(ident) > until, TookTooLong):
            return self.get_response(request)
