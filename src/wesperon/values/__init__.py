"""Values: slots, kinds, records, and the problems with them. Pure; imports text and what is beside this folder."""
