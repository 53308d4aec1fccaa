"""Values: slots, kinds, choices, records, checks, problems and origins. Pure: no input, no output, no clock."""
