"""Parts as bodies: where they stand, what is cut out of them, and the solid that is left."""
