"""What a dead worker leaves behind is taken up, whatever else it was at."""

from __future__ import annotations

import asyncio
from unittest import mock

from django.contrib.auth.models import User
from django.db import OperationalError, connection
from django.test import TransactionTestCase
from procrastinate.contrib.django import app

from clubs.actions import found_club

from .actions import enqueue, new_job
from .models import Job
from .running import KINDS, Kind, Reporter, anyone, finishing, register, run
from .tasks import AGAIN, MOST_TRIES, take_up

EVERY_MINUTE = "footage.upkeep.upkeep"
RUN = "jobs.tasks.run_job"
IDLE = register(Kind("be idle", lambda job, reporter: None, 60, anyone))


class DeadWorker(TransactionTestCase):
    def setUp(self):
        user = User.objects.create_user("coach")
        found_club("Dune Grappling", user)
        self.rows("delete from procrastinate_jobs")  # these tables are not emptied between tests
        self.job = new_job(user.pk, IDLE.name)
        enqueue(self.job)

    def rows(self, statement: str, *values: object) -> list[tuple[str, ...]]:
        with connection.cursor() as cursor:
            cursor.execute(statement, values)
            return cursor.fetchall() if cursor.description else []

    def enqueue_every_minute(self) -> None:
        self.rows(
            "insert into procrastinate_jobs (queue_name, task_name, queueing_lock, args) values ('media', %s, %s, '{}')",
            EVERY_MINUTE, EVERY_MINUTE,
        )  # fmt: skip

    def die(self, attempts: int = 0) -> None:
        """As a worker that was killed leaves it: all of it is being done, and no worker is there."""
        self.rows("update procrastinate_jobs set status = 'doing', attempts = %s", attempts)

    def taken_up(self) -> list[tuple[str, ...]]:
        async def now() -> None:
            async with app.open_async():
                await take_up(app.job_manager)

        with app.replace_connector(app.connector.get_worker_connector()):
            asyncio.run(now())
        return self.rows("select task_name, status::text from procrastinate_jobs order by id")

    def test_it_is_put_back_into_the_queue(self):
        self.die()
        self.assertEqual(self.taken_up(), [(RUN, "todo")])

    def test_what_was_begun_too_often_has_failed(self):
        self.die(MOST_TRIES)
        self.assertEqual(self.taken_up(), [(RUN, "failed")])

    def test_what_is_done_every_minute_stands_in_nobody_s_way(self):
        """The next one of it is in the queue already, and of the same there can be one."""
        self.rows("delete from procrastinate_jobs")
        self.enqueue_every_minute()
        self.die()
        enqueue(self.job)
        self.rows("update procrastinate_jobs set status = 'doing' where task_name = %s", RUN)
        self.enqueue_every_minute()
        self.assertEqual(self.taken_up(), [(EVERY_MINUTE, "failed"), (RUN, "todo"), (EVERY_MINUTE, "todo")])

    def test_work_during_which_the_database_went_away_is_begun_again(self):
        """It has not failed, whatever it was at: the queue has it once more, and then it comes to its end."""
        tries = []

        def work(job: Job, reporter: Reporter) -> None:
            tries.append(1)
            if len(tries) == 1:
                raise OperationalError("the server closed the connection unexpectedly")
            with finishing(job):
                pass

        with mock.patch.dict(KINDS, {self.job.kind: Kind(self.job.kind, work, 60, anyone)}):
            with self.assertRaises(OperationalError) as away:
                run(str(self.job.pk))
            self.job.refresh_from_db()
            self.assertEqual((self.job.state, self.job.trouble), ("working", ""))
            queued = mock.Mock(attempts=1)
            self.assertIsNotNone(AGAIN.get_retry_decision(exception=away.exception, job=queued))
            run(str(self.job.pk))
        self.job.refresh_from_db()
        self.assertEqual((self.job.state, self.job.tries), ("done", 2))
