"""Text being edited: keys in, state out. Pure. Imports values, text and frozen."""
