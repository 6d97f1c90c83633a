"""The served program under what is hostile, wrong or odd: `make fuzz`, and shorter as a test."""
