"""What is printed rather than asked: help pages, reports of problems, records as cards, and how a program ends."""
