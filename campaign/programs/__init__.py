"""The programs that the campaign drives; each ends by itself, or says goodbye to Ctrl-C and Ctrl-D."""
