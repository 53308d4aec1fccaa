"""Files that declare something: sets of questions, guides, choices. Imports forms and below."""
