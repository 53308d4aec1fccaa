"""Real utilities, declared here and run beside the declarations."""
