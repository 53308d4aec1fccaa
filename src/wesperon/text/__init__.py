"""Text for people: escaping, truncating, quoting, spelling, messages. Pure. Imports context, frozen."""
