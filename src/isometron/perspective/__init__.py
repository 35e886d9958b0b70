"""Sheet, eye, projection, vanishing points and cone of vision: pure functions on arrays."""
