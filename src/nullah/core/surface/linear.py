"""Systems of a few linear equations, in plain Python.

A board's readings and its slab ask for systems of three to six unknowns, and all it takes to open a project is a few hundred of
them: less time than loading a library of linear algebra.
"""

from __future__ import annotations

from collections.abc import Sequence
from math import log

from nullah.core.values.arrays import np

_IN_LISTS = 14  # rows and columns: up to there lists are as quick as loading a library


class Singular(ArithmeticError):
    """The equations leave an unknown open, or contradict each other."""


def solved(matrix: Sequence[Sequence[float]], wanted: Sequence[float]) -> list[float]:
    """The x with ``matrix`` x = ``wanted``: rows of a square matrix, by elimination with the largest pivot of each column.

    Raises:
        Singular: it has no one answer.
    """
    rows = [[*row, last] for row, last in zip(matrix, wanted, strict=True)]
    size = len(rows)
    for i in range(size):
        best = max(range(i, size), key=lambda r: abs(rows[r][i]))
        pivot = rows[best]
        if pivot[i] == 0:
            raise Singular("These equations have no one answer.")
        rows[best], rows[i] = rows[i], pivot
        for row in rows[i + 1 :]:
            if row[i]:
                share = row[i] / pivot[i]
                for j in range(i, size + 1):
                    row[j] -= share * pivot[j]
    x = [0.0] * size
    for i in reversed(range(size)):
        row = rows[i]
        x[i] = (row[size] - sum(row[j] * x[j] for j in range(i + 1, size))) / row[i]
    return x


def definite(matrix: Sequence[Sequence[float]]) -> tuple[list[list[float]], float]:
    """The inverse of a symmetric matrix that is positive definite, as a covariance is, and the logarithm of its determinant; of a large
    one in arrays.

    Raises:
        Singular: it is not definite.
    """
    size = len(matrix)
    if size > _IN_LISTS:
        array = np.array(matrix)
        sign, determinant = np.linalg.slogdet(array)
        if not sign > 0:
            raise Singular("These equations have no one answer.")
        return np.linalg.inv(array).tolist(), float(determinant)
    rows = [[*row, *(float(i == j) for j in range(size))] for i, row in enumerate(matrix)]
    determinant = 0.0
    for i in range(size):  # Gauss and Jordan: of a definite matrix every pivot serves
        pivot = rows[i][i]
        if not pivot > 0:
            raise Singular("These equations have no one answer.")
        determinant += log(pivot)
        rows[i] = scaled = [one / pivot for one in rows[i]]
        for r, row in enumerate(rows):
            if r != i and row[i]:
                share = row[i]
                rows[r] = [one - share * other for one, other in zip(row, scaled, strict=True)]
    return [row[size:] for row in rows], determinant
