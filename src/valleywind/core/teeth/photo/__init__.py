"""Wheels counted and measured in a picture: an array of brightness from 0 to 1, row by row from the top."""
