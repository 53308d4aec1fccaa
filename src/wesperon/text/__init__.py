"""Text for people: escaping, truncating, quoting, spelling, messages. Pure; imports nothing of the other folders."""
