"""NumPy, loaded when it is first worked with.

A window opens on sums of a few figures; to load NumPy for the drawings that come after would hold it up by a tenth.
"""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    import numpy as np
    from numpy.typing import NDArray

    Floats = NDArray[np.float64]
    Bools = NDArray[np.bool_]
    Ints = NDArray[np.int64]
else:
    Floats = Bools = Ints = Any

    class _WhenAsked:
        def __getattr__(self, name: str) -> Any:
            import numpy

            found = getattr(numpy, name)
            setattr(self, name, found)  # it is asked for once only
            return found

    np = _WhenAsked()

__all__ = ["Bools", "Floats", "Ints", "np"]
