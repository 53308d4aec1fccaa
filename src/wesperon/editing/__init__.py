"""Text being edited: keys in, state out. Pure."""
