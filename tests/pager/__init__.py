"""The pager: its texts, the widget, its sources, on terminals and through pipes."""
