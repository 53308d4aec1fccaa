"""The night desk of Hollin Ridge, an invented place, as a program. Imports the root, output and below."""
