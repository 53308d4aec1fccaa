"""Long output: where it comes from, and the pager over it or straight through. Imports output and below."""
