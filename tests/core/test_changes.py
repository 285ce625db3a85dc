"""Changes to the document: what is set is read back, what is wrong is named, nothing else moves."""

from __future__ import annotations

import pytest
from msgspec.structs import replace

from hazel_lantern.core.document.project import Thing, replaced
from hazel_lantern.core.editing import bindings, changes, checking, lists
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.quantity import Choice, Quantity
from hazel_lantern.files import project_file
from tests.helpers import SHELF, of_each_kind, sample

RIGS = of_each_kind(sample())


def another(parameter, now):
    """Another value the parameter accepts."""
    if isinstance(parameter, Quantity):
        step = 1.0 if parameter.unit == "count" else 0.01
        middle = now + step * (1 if now + step <= parameter.high else -1)
        return middle if parameter.low <= middle <= parameter.high else parameter.low
    if isinstance(parameter, Choice):
        ids = [key for key, _ in parameter.options] or list(getattr(SHELF, parameter.table))
        return next((key for key in ids if key != now), now)
    return now[:-1]


@pytest.mark.parametrize("rig", RIGS)
def test_every_parameter_reads_back_what_was_set_and_the_file_keeps_it(rig):
    project = lists.add_way_point(sample(), sample().rig(rig).shots[0])
    project = replace(project, rigs=(project.rig(rig),))
    known = bindings.bindings(project, rig)
    for key, (parameter, place) in ((key, (one.parameter, one.place)) for key, one in known.items()):
        wanted = another(parameter, place.get(project))
        changed = changes.set_values(project, rig, [(key, wanted)], known)
        set_to = place.get(changed)
        assert set_to == (pytest.approx(wanted) if isinstance(wanted, float) else wanted), key
        assert place.get(project_file.decode(project_file.encode(changed), "x")) == set_to, key
        if isinstance(parameter, Quantity):
            if parameter.unit == "count":
                with pytest.raises(InputError, match="whole number"):
                    changes.set_values(project, rig, [(key, parameter.low + 0.5)], known)
            for bad in (parameter.high + 1, parameter.low - 1, float("nan"), "soon", True):
                with pytest.raises(InputError, match=key.replace(".", r"\.")):
                    changes.set_values(project, rig, [(key, bad)], known)


@pytest.mark.parametrize("rig", RIGS)
def test_a_change_of_one_rig_leaves_the_others_alone(rig):
    project = sample()
    own = {p.key for p in bindings.declared_of(project.rig(rig)).parameters}
    key = next(k for k in sorted(own) if isinstance(bindings.parameters(project, rig)[k], Quantity))
    changed = changes.set_values(
        project, rig, [(key, another(bindings.parameters(project, rig)[key], bindings.value_of(project, rig, key)))]
    )
    for other in RIGS:
        if other != rig:
            assert changed.rig(other) is project.rig(other)
    assert changed.sets is project.sets
    assert changed.shots is project.shots


def test_another_set_forgets_what_was_looked_at_on_the_old_one():
    changed = changes.set_values(sample(), "hive-jib", [("shot.set", "cellar")])
    assert changed.shots[0].target == ""
    assert "thing.jar-4.x" in bindings.parameters(changed, "hive-jib")
    assert "thing.keeper.x" not in bindings.parameters(changed, "hive-jib")
    bare = changes.set_values(sample(), "hive-jib", [("shot.set", "")])
    assert not any(k.startswith(("thing.", "set.")) for k in bindings.parameters(bare, "hive-jib"))
    grown, key = lists.add_thing(bare, "hives", "person")
    assert checking.check(grown).shots[0].target == key


def broken():
    """Documents that lead nowhere, with what must be named."""
    project = sample()
    stage = project.sets[0]
    twice = replace(stage, things=(*stage.things, stage.things[0]))
    odd = replace(stage, things=(*stage.things, Thing(id="x", kind="dragon", name="x")))
    yield replace(project, sets=replaced(project.sets, twice)), "every id may be used once"
    yield replace(project, sets=replaced(project.sets, odd)), "must be one of person"
    yield replace(project, shots=replaced(project.shots, replace(project.shots[0], set="nowhere"))), "names nothing"
    yield (
        replace(project, shots=replaced(project.shots, replace(project.shots[0], target="ghost"))),
        "shot hives, target",
    )
    yield replace(project, shots=replaced(project.shots, replace(project.shots[0], aim="sideways"))), "shot.aim"
    yield replace(project, shots=replaced(project.shots, replace(project.shots[0], focal_m=0.0))), "shot.focal"
    yield replace(project, shots=replaced(project.shots, replace(project.shots[0], capture_fps=0.0))), "shot.capture"
    slider = next(rig for rig in project.rigs if rig.kind == "slider")
    yield replace(project, rigs=replaced(project.rigs, replace(slider, variant="paper"))), "must be one of grooved"
    yield replace(project, rigs=replaced(project.rigs, replace(slider, kind="kite"))), "must be one of jib"
    yield (
        replace(project, rigs=replaced(project.rigs, replace(slider, design={"arm.front": 1.0}))),
        "is not a parameter of a Slider",
    )
    yield replace(project, rigs=replaced(project.rigs, replace(slider, shots=()))), "at least one shot"
    yield replace(project, rigs=replaced(project.rigs, replace(slider, kit="none"))), "names nothing"


@pytest.mark.parametrize(("project", "words"), [pytest.param(p, w, id=w) for p, w in broken()])
def test_a_document_that_leads_nowhere_is_refused_with_the_place(project, words):
    with pytest.raises(InputError, match=words):
        checking.check(project)


def test_a_weight_is_owned_under_a_new_id_and_leaves_every_rig_it_hung_on():
    project = lists.add_weight(sample(), "bag-5")
    new = project.plates[-1]
    assert new.plate == "bag-5"
    assert [w.id for w in project.plates].count(new.id) == 1
    for rig in ("hive-jib", "hive-jib-cable"):
        project = changes.set_values(project, rig, [("weights.hung", (new.id, "p1"))])
    bare = lists.remove_weight(project, new.id)
    assert [bare.rig(rig).design["weights.hung"] for rig in ("hive-jib", "hive-jib-cable")] == [("p1",), ("p1",)]
    assert not any(new.id in rig.design.get("weights.hung", ()) for rig in bare.rigs)
    with pytest.raises(InputError, match="names nothing"):
        lists.remove_weight(bare, new.id)
