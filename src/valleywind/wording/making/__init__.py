"""Making a wheel."""
