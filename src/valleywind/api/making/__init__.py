"""Jobs and their sessions."""
