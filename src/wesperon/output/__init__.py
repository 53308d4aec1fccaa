"""What is printed: help, reports, tables, cards, styles, exit statuses. Imports terminal and below."""
