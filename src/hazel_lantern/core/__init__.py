"""The computation: no interface, no files, no clock, no globals."""
