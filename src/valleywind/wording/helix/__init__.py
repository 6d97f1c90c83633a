"""The mill."""
