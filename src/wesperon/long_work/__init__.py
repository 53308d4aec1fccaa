"""Long work that shows itself: what is counted, and where it is shown. Imports terminal and below."""
