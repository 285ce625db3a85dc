"""Rigs of the project added, kept beside, renamed and taken away."""

from __future__ import annotations

from PyQt6.QtWidgets import QInputDialog

from hazel_lantern.core.advice.proposals import Proposal
from hazel_lantern.core.editing import changes
from hazel_lantern.desktop.shell.frame import Frame


class Rigs:
    """Rig actions on behalf of one window."""

    def __init__(self, window: Frame) -> None:
        self._window = window

    def next_rig(self) -> None:
        ids = [rig.id for rig in self._window.session.project.rigs]
        if ids:
            self._window.session.switch(ids[(ids.index(self._window.session.rig_id) + 1) % len(ids)])

    def add_rig(self, key: str) -> None:
        kind, _, variant = key.partition("/")
        project = changes.add_rig(self._window.session.project, kind, variant)
        self._window.session.change(f"Add {project.rigs[-1].name}", project)
        self._window.session.switch(project.rigs[-1].id)

    def keep_alternative(self) -> None:
        if self._window.session.rig_id:
            project = changes.keep_alternative(self._window.session.project, self._window.session.rig_id)
            self._window.session.change(f"Keep {project.rigs[-1].name}", project)

    def remove_rig(self) -> None:
        if self._window.session.rig_id:
            name = self._window.session.project.rig(self._window.session.rig_id).name
            self._window.session.change(f"Remove {name}", changes.remove_rig(self._window.session.project, self._window.session.rig_id))

    def rename_rig(self) -> None:
        if not self._window.session.rig_id:
            return
        old = self._window.session.project.rig(self._window.session.rig_id).name
        name, said = QInputDialog.getText(self._window.widget, "Rename the rig", "Name", text=old)
        if said:
            self._window.attempt(
                lambda: self._window.session.change(f"Rename to {name.strip()}", changes.rename_rig(self._window.session.project, self._window.session.rig_id, name))
            )

    def take_proposal(self, proposal: Proposal) -> None:
        """A rig that was proposed becomes one of the project."""
        project = changes.take_rig(self._window.session.project, proposal.rig)
        self._window.session.change(f"Add {project.rigs[-1].name}", project)
        self._window.session.switch(project.rigs[-1].id)
