"""The demo shop: Harrowfold Weir workshop, made up."""
