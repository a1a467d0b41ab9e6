"""The compiled inner loop of a plane on the wood. Loaded late, since Numba takes half a second to import."""
