"""Keys: events, the resolver, families, bindings, actions. Pure; imports editing."""
