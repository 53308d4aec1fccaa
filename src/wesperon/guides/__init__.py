"""Guides: sets of questions that branch, from step to step."""
