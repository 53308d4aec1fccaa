"""What is printed: help, reports, tables, cards, styles, exit statuses. Imports screen and below."""
