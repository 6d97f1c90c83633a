"""Devices at the machine."""
