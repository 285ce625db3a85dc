"""Work off the interface thread: the newest request wins, errors are carried,
and what is not wanted stops in between."""

from __future__ import annotations

import itertools
from threading import Event

from hazel_lantern.core.memo import Memo
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.progress import Progress
from hazel_lantern.session.jobs import Job


def test_a_step_that_would_take_for_ever_is_left_in_the_middle(qtbot):
    job, began, said = Job(), Event(), []
    job.stepped.connect(said.append)
    job.failed.connect(said.append)

    def endless():
        memo = Memo()
        for n in itertools.count():
            memo.step("piece", n, began.set)
        yield Progress(1, 1, "never")

    job.start(endless)
    qtbot.waitUntil(began.is_set)
    job.start(lambda: iter([Progress(1, 2), Progress(2, 2, "newest")]))
    qtbot.waitUntil(lambda: not job.running)
    assert [step.answer for step in said] == [None, "newest"]
    job.finish()


def test_what_goes_wrong_is_carried_and_an_answer_of_a_cancelled_request_is_dropped(qtbot):
    job, failed, done = Job(), [], []
    job.failed.connect(failed.append)
    job.done.connect(done.append)

    def refused():
        yield Progress(0, 1)
        raise InputError("span", 0.0, "must be above nought")

    job.start(refused)
    qtbot.waitUntil(lambda: bool(failed))
    assert failed[0].field == "span" and not job.running and not done
    held, go = Event(), Event()

    def slow():
        held.set()
        go.wait(10)
        yield Progress(1, 1, "too late")

    job.start(slow)
    qtbot.waitUntil(held.is_set)
    job.cancel()
    go.set()
    job.finish()
    assert not done and not job.running and len(failed) == 1
