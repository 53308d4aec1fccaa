"""Programs, commands, and the pages made of their declarations. Imports form and below."""
