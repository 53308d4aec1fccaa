"""The night desk of the observatory at Hollin Ridge, an invented place, as a program on Wesperon."""
