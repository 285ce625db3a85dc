"""Whatever the house looks like, the samples come to the same."""

from __future__ import annotations

import json

import msgspec
import pytest

from hazel_lantern.core.evaluate import evaluate
from hazel_lantern.core.workshop.plan import Order
from tests.golden import differences, path, told
from tests.helpers import SAMPLES, SHELF, sample


@pytest.mark.parametrize("name", SAMPLES)
def test_the_samples_come_to_what_they_came_to(name):
    now = json.loads(json.dumps(told(name)))
    assert differences(now, json.loads(path(name).read_text())) == []


def test_every_order_reaches_the_process_that_searches_its_cuts():
    project = sample()
    for rig in project.rigs:
        order = evaluate(project, SHELF, rig.id).order
        assert msgspec.json.decode(msgspec.json.encode(order), type=Order) == order


def test_a_difference_is_seen():
    was = {"a": [1.0, 2.0], "b": "as it was"}
    assert differences({"a": [1.0, 2.0 + 1e-10], "b": "as it was"}, was) == []
    assert differences({"a": [1.0, 2.001], "b": "as it is"}, was) == [
        "/a/1: 2.001, was 2.0",
        "/b: 'as it is', was 'as it was'",
    ]
