"""Devices over the line protocol: lines lost, garbled, late or doubled; wrong versions; unplugging;
a socket of this machine."""

from __future__ import annotations

import socket

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from hazel_lantern.core.nouns.errors import HazelError, InputError
from hazel_lantern.core.proving.shaken import even, peaks, spectrum
from hazel_lantern.devices.errors import DeviceError, GarbledError, GoneError, RefusedByDeviceError
from hazel_lantern.devices.instruments import SORTS, Instrument
from hazel_lantern.devices.lines import Line, check_sum, decode, encode
from hazel_lantern.devices.ports import open_port
from hazel_lantern.devices.served import Beside, Served, Trouble
from hazel_lantern.devices.standing_in import instrument

WORDS = st.lists(st.from_regex(r"[A-Za-z0-9.,:;+\-_/^]{1,12}", fullmatch=True), min_size=1, max_size=6)


@given(st.integers(0, 9999), WORDS, st.integers(0, 200), st.integers(0, 255))
def test_a_line_comes_back_whole_or_not_at_all(number, words, at, byte):
    line = Line(number, tuple(words))
    raw = encode(line)
    assert decode(raw) == line
    hurt = raw[: at % (len(raw) - 1)] + bytes([byte]) + raw[at % (len(raw) - 1) + 1 :]
    if hurt != raw:
        with pytest.raises(GarbledError):
            decode(hurt)


def test_the_check_sum_is_the_one_that_everybody_reckons():
    assert check_sum("123456789") == 0x29B1


@pytest.mark.parametrize("sort", list(SORTS))
def test_every_instrument_reads_the_truth_within_its_own_error(sort):
    one = Instrument(Beside(instrument(sort, 4.0, 3)))
    made = SORTS[sort]
    assert (one.sort, one.unit, one.give) == (sort, made.unit, made.give)
    if sort == "accelerometer":
        times, rows = one.log(6.0)
        log = even(np.array(times), np.array(rows))
        found = peaks(spectrum(log), log.trusted)
        assert abs(found[0].frequency - 4.0) < 0.2 and found[0].amplitude == pytest.approx(0.4, rel=0.15)
        with pytest.raises(RefusedByDeviceError, match="does not read"):
            one.read()
        return
    reads = [one.read() for _ in range(60)]
    assert abs(np.mean(reads) - 4.0) <= made.zero + made.give
    assert np.std(reads) == pytest.approx(made.give / 1.96, rel=0.4)
    one.tare()
    assert abs(np.mean([one.read() for _ in range(30)])) <= 2 * made.give
    with pytest.raises(RefusedByDeviceError, match="does not log"):
        one.log(1.0)


def test_a_thousand_troubled_lines_end_in_a_reading_or_one_clear_sentence():
    ends, sentences = 0, []
    for seed in range(1000):
        trouble = Trouble(seed, lost=0.12, garbled=0.12, late=0.08, doubled=0.1, unplugged=0.02)
        try:
            one = Instrument(Beside(instrument("scale", 12.0, 0), trouble))
            for _ in range(3):
                assert abs(one.read() - 12.0) < 1.0  # never a reading of garbage
            ends += 1
        except DeviceError as error:
            sentences.append(str(error))
    assert ends > 600 and len(sentences) > 20
    assert all("\n" not in words and len(words) < 200 for words in sentences)


def test_lost_lines_are_asked_again_and_nothing_is_done_twice():
    asked = []

    class Counts:
        def answer(self, words):
            asked.append(words)
            return instrument("tape", 1.0, 0).answer(words)

    one = Instrument(Beside(Counts(), Trouble(5, lost=0.1)))
    for _ in range(20):
        one.read()
    assert sum(words[0] == "read" for words in asked) == 20


@pytest.mark.parametrize(
    ("answer", "says"),
    [
        (("ok", "2", "instrument", "scale", "N", "0.1"), "version 2"),
        (("ok", "1", "controller"), "not a instrument"),
        (("ok", "1", "instrument", "scale"), "does not say"),
        (("what",), "neither ok nor no"),
        (("no", "busy_now"), "busy now"),
    ],
)
def test_what_is_no_instrument_of_ours_is_not_used(answer, says):
    class Odd:
        def answer(self, words):
            return answer

    with pytest.raises(DeviceError, match=says):
        Instrument(Beside(Odd()))


def test_over_a_socket_of_this_machine_with_one_owner_until_it_is_pulled():
    served = Served(instrument("tape", 2.5, 1))
    one = Instrument(open_port(f"socket:{served.number}"))
    assert abs(one.read() - 2.5) < 0.01
    second = open_port(f"socket:{served.number}")
    with pytest.raises(DeviceError, match="does not answer"):
        Instrument(second)  # somebody else has it
    served.close()
    with pytest.raises(GoneError, match="gone"):
        [one.read() for _ in range(5)]
    one.close()
    with pytest.raises(DeviceError, match="nothing answers"):
        open_port(f"socket:{served.number}")
    for wrong in ("socket:80", "socket:x", ""):
        with pytest.raises(InputError, match="device"):
            open_port(wrong)
    with pytest.raises(DeviceError, match="cannot be opened"):
        open_port("/dev/there-is-none")


def test_garbage_on_a_socket_is_one_clear_sentence():
    with socket.create_server(("127.0.0.1", 0)) as listens:
        port = open_port(f"socket:{listens.getsockname()[1]}")
        owner, _ = listens.accept()
        owner.sendall(b"\xff\xfe garbage \n" * 200)
        with pytest.raises(HazelError, match="garbled"):
            Instrument(port)
        owner.close()
