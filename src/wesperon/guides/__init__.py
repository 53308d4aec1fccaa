"""Guides: sets of questions that branch, from files. Imports form and below."""
