"""Figures for Prometheus: those of the requests, which a package counts, and those of the installation."""

from __future__ import annotations

import os
from collections.abc import Iterable

from prometheus_client import CONTENT_TYPE_LATEST, REGISTRY, CollectorRegistry, generate_latest
from prometheus_client.metrics_core import GaugeMetricFamily, Metric
from prometheus_client.multiprocess import MultiProcessCollector
from prometheus_client.registry import Collector

from footage import object_storage, store

from . import backups, figures

CONTENT_TYPE = CONTENT_TYPE_LATEST


class Installation(Collector):
    """The figures of the whole installation, read from its database when they are asked for."""

    def collect(self) -> Iterable[Metric]:
        queue = figures.waiting()
        jobs = GaugeMetricFamily("jurata_jobs", "Background jobs that have not finished yet.", labels=["state"])
        jobs.add_metric(["waiting"], queue.waiting)
        jobs.add_metric(["working"], queue.working)
        yield jobs
        yield GaugeMetricFamily("jurata_jobs_oldest_seconds", "How long the longest has waited.", value=queue.oldest_s)
        ended = GaugeMetricFamily("jurata_jobs_ended", "Work that ended in the last day.", labels=["kind", "state"])
        mean = GaugeMetricFamily("jurata_jobs_mean_seconds", "How long it took, on average.", labels=["kind"])
        longest = GaugeMetricFamily("jurata_jobs_longest_seconds", "How long the longest took.", labels=["kind"])
        for kind in figures.times():
            ended.add_metric([kind.kind, "done"], kind.done)
            ended.add_metric([kind.kind, "failed"], kind.failed)
            mean.add_metric([kind.kind], kind.mean_s)
            longest.add_metric([kind.kind], kind.longest_s)
        yield from (ended, mean, longest)
        free = GaugeMetricFamily("jurata_disk_free_bytes", "What is free on a disk.", labels=["disk"])
        total = GaugeMetricFamily("jurata_disk_bytes", "The size of a disk.", labels=["disk"])
        for room in figures.rooms():
            free.add_metric([room.name], room.free)
            total.add_metric([room.name], room.total)
        yield from (free, total)
        if store.in_use():
            up = float(not object_storage.trouble())
            yield GaugeMetricFamily("jurata_storage_up", "Whether object storage answers.", value=up)
        yield GaugeMetricFamily("jurata_database_bytes", "The size of the database.", value=figures.database_bytes())
        signs = figures.sign_ins()
        yield GaugeMetricFamily("jurata_sign_ins_failed", "Failed sign-ins in the last 24 hours.", value=signs.failed)
        last = backups.last_good()
        made = 0.0 if last is None else last.begun.timestamp()
        yield GaugeMetricFamily("jurata_backup_timestamp_seconds", "When the last good backup began.", value=made)


def all_figures() -> bytes:
    """All figures as Prometheus reads them; those of the requests from all processes of the server on this machine."""
    if "PROMETHEUS_MULTIPROC_DIR" in os.environ:
        registry = CollectorRegistry()
        MultiProcessCollector(registry)  # type: ignore[no-untyped-call]
        requests = generate_latest(registry)
    else:
        requests = generate_latest(REGISTRY)
    own = CollectorRegistry()
    own.register(Installation())
    return requests + generate_latest(own)
