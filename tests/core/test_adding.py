"""Rigs of ordinary size: every construction comes without a stop, on a move it is made for;
and a shot without a rig."""

from __future__ import annotations

import numpy as np
import pytest

from hazel_lantern.core.advice.adding import added, with_first
from hazel_lantern.core.advice.gallery import gallery
from hazel_lantern.core.editing import changes, checking
from hazel_lantern.core.editing.starting import begun, blank, furnish, looking_at
from hazel_lantern.core.editing.wish import with_wish, without_wish
from hazel_lantern.core.evaluate import evaluate
from hazel_lantern.core.kinds import DECLARED
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.finding import CLEAR, STOP
from hazel_lantern.core.staging.timing import frames
from tests.helpers import SHELF, sample, value

ALL = [(kind.id, variant) for kind in DECLARED.values() for variant, _ in kind.variants]


@pytest.mark.parametrize(("kind", "variant"), ALL)
def test_usual_values_make_a_rig_without_a_stop_for_a_move_it_is_made_for(kind, variant):
    project = with_first(changes.add_rig(blank(), kind, variant))
    result = evaluate(project, SHELF, project.rigs[0].id)
    stops = [finding.key for finding in result.findings if finding.state == STOP]
    # Only what has to be pulled at where it stands is left to do.
    assert [key for key in stops if not key.startswith("balance.tested_")] == []
    assert 1.0 < value(result, "rig.mass") < 60.0
    assert DECLARED[kind].short[variant] and DECLARED[kind].well and DECLARED[kind].asks
    lens = result.staged.camera.places
    assert np.ptp(lens, axis=0).max() > 0.3


def test_a_new_rig_serves_a_shot_the_project_has_where_it_can_and_brings_one_where_not():
    project = sample()
    jib = added(project, SHELF, "jib", "cable", shot_id="hives")
    assert jib.rigs[-1].shots == ("hives",)
    assert jib.shots == project.shots
    only_rise = begun()
    slider = added(only_rise, SHELF, "slider", "rods", shot_id="shot")
    served = slider.shot_of(slider.rigs[-1])
    assert served.move == "slide"
    assert not any(f.state == STOP for f in evaluate(slider, SHELF, slider.rigs[-1].id).findings)
    # Weights of another project mean nothing here: none is hung until it is balanced.
    poor = furnish(blank(), SHELF, owned=["plate-5"])
    assert changes.add_rig(poor, "jib").rigs[0].design["weights.hung"] == ()
    with pytest.raises(InputError):
        furnish(blank(), SHELF, owned=["no-such-plate"])
    with pytest.raises(InputError, match="NAME=MASS"):
        furnish(blank(), SHELF, kit=["a camera"])
    seen = looking_at(furnish(blank(), SHELF, "in", kit=["body=0.75", "lens=14 oz"]), "person")
    assert seen.units == "in"
    assert sum(item.mass_kg for item in seen.kits[0].items) == pytest.approx(0.75 + 14 * 0.028349523125)
    assert seen.set_of(seen.shots[0]).things[0].kind == "person"


def test_every_construction_has_its_picture():
    *_, last = gallery(blank(), SHELF)
    assert last.done == last.total == len(ALL)
    for example in last.answer:
        assert example.evaluation.draw(0.6, example.evaluation.kind.views[0].key).items


def test_without_a_rig_the_camera_goes_exactly_where_it_is_wanted_and_nothing_of_it_is_kept():
    project = with_wish(begun())
    result = evaluate(project, SHELF, project.rigs[0].id)
    made = frames(result.shot, result.scene)
    asked = result.path.move.places(result.path.move.share(np.clip(made.times / result.shot.duration_s, 0, 1)))
    assert np.abs(made.sight.places - asked).max() < 1e-9
    assert value(result, "shot.stray") == pytest.approx(0, abs=1e-9)
    assert {finding.state for finding in result.findings} == {CLEAR}
    kept, stood = without_wish(project)
    assert kept == begun() and stood is not None
    with pytest.raises(InputError, match="must be one of"):
        checking.check(project)


def test_an_orbit_rig_gets_something_to_go_round_and_nothing_on_a_set_is_lost():
    project = begun()
    made = added(project, SHELF, "orbit", shot_id=project.shots[0].id)
    shot = made.shot_of(made.rigs[-1])
    assert set(project.sets) <= set(made.sets) and made.set_of(shot).things[0].id == shot.target
    result = evaluate(made, SHELF, made.rigs[-1].id)
    assert not [f.key for f in result.findings if f.state == STOP]
    assert evaluate(changes.set_values(made, made.rigs[-1].id, [("shot.time", 12.0)]), SHELF, made.rigs[-1].id).model
