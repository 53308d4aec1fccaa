"""What renews the pictures and the page of keys."""
