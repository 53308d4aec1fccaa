"""Long output: where it comes from, and the pager over it or straight through. Imports forms and below."""
