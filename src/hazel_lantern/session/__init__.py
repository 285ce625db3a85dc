"""The current document, undoable changes, background jobs, settings: Qt without widgets."""
