"""Systems of a few linear equations, in plain Python.

A board's readings and its slab ask for systems of three to six unknowns, and all it takes to open a project is a few hundred of
them: less time than loading a library of linear algebra.
"""

from __future__ import annotations

from collections.abc import Sequence

from nullah.core.arrays import np

_IN_LISTS = 40  # rows and columns: up to there lists are as quick as loading a library


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


def inverse(matrix: Sequence[Sequence[float]]) -> list[list[float]]:
    """The inverse of a square matrix, by Gauss and Jordan with the largest pivot of each column; of a large one in arrays.

    Raises:
        Singular: it has none.
    """
    size = len(matrix)
    if size > _IN_LISTS:
        try:
            return [[float(one) for one in row] for row in np.linalg.inv(np.array(matrix))]
        except np.linalg.LinAlgError:
            raise Singular("These equations have no one answer.") from None
    rows = [[*row, *(float(i == j) for j in range(size))] for i, row in enumerate(matrix)]
    for i in range(size):
        best = max(range(i, size), key=lambda r: abs(rows[r][i]))
        pivot = rows[best]
        if pivot[i] == 0:
            raise Singular("These equations have no one answer.")
        rows[best] = rows[i]
        rows[i] = scaled = [one / pivot[i] for one in pivot]
        for r, row in enumerate(rows):
            if r != i and row[i]:
                share = row[i]
                rows[r] = [one - share * other for one, other in zip(row, scaled, strict=True)]
    return [row[size:] for row in rows]


def least_squares(rows: Sequence[Sequence[float]], values: Sequence[float], held: Sequence[float]) -> list[float]:
    """The x for which the sum of (row x - value)^2 over all rows, and of (held x)^2 over the unknowns, is least (a ridge).

    By the normal equations: with few and scaled unknowns their loss of figures does not matter.

    Raises:
        Singular: an unknown that no row speaks of is not held either.
    """
    unknowns = range(len(held))
    matrix = [[sum(row[i] * row[j] for row in rows) for j in unknowns] for i in unknowns]
    for i in unknowns:
        matrix[i][i] += held[i] ** 2
    return solved(matrix, [sum(row[i] * value for row, value in zip(rows, values, strict=True)) for i in unknowns])
