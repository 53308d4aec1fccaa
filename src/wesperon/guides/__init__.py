"""Guides: sets of questions that branch, from files. Imports forms, documents and below."""
