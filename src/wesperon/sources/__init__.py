"""Where values come from, and the order of the sources: words, a question, a default. Imports files and below."""
