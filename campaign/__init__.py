"""The campaign: real programs in pseudo-terminals, driven by chance, and what must hold whatever happens to them."""
