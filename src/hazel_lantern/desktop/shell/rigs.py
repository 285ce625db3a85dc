"""Rigs of the project added, kept beside, renamed and taken away."""

from __future__ import annotations

from PyQt6.QtWidgets import QInputDialog

from hazel_lantern.core.advice.adding import added
from hazel_lantern.core.advice.proposals import Proposal
from hazel_lantern.core.editing import changes
from hazel_lantern.desktop.shell.voice import Voice
from hazel_lantern.session.session import Session


class Rigs:
    """Rig actions on one session."""

    def __init__(self, session: Session, voice: Voice) -> None:
        self._session, self._voice = session, voice

    def next_rig(self) -> None:
        ids = [rig.id for rig in self._session.project.rigs]
        if ids:
            self._session.switch(ids[(ids.index(self._session.rig_id) + 1) % len(ids)])

    def add_rig(self, key: str) -> None:
        kind, _, variant = key.partition("/")
        session = self._session
        project = added(session.project, session.catalogue, kind, variant, shot_id=session.shot_id)
        self._session.change(f"Add {project.rigs[-1].name}", project)
        self._session.switch(project.rigs[-1].id)

    def keep_alternative(self) -> None:
        if self._session.has_rig:
            project = changes.keep_alternative(self._session.project, self._session.rig_id)
            self._session.change(f"Keep {project.rigs[-1].name}", project)

    def remove_rig(self) -> None:
        if self._session.has_rig:
            name = self._session.project.rig(self._session.rig_id).name
            self._session.change(f"Remove {name}", changes.remove_rig(self._session.project, self._session.rig_id))

    def rename_rig(self) -> None:
        if not self._session.has_rig:
            return
        old = self._session.project.rig(self._session.rig_id).name
        name, said = QInputDialog.getText(self._voice.over, "Rename the rig", "Name", text=old)
        if said:
            self._voice.attempt(
                lambda: self._session.change(
                    f"Rename to {name.strip()}", changes.rename_rig(self._session.project, self._session.rig_id, name)
                )
            )

    def take_proposal(self, proposal: Proposal) -> None:
        """A rig that was proposed becomes one of the project."""
        project = changes.take_rig(self._session.project, proposal.rig)
        self._session.change(f"Add {project.rigs[-1].name}", project)
        self._session.switch(project.rigs[-1].id)
