"""The pager: long texts, of which a screen is made at a time. Pure; imports widgets."""
