"""Programs, commands, and the pages and messages that are made from their declarations."""
