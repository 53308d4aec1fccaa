"""Files that declare something: sets of questions, guides, choices. Imports sources and below."""
