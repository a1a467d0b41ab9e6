"""One file a kind of piece: parts, dimension chains, joint places.

A kind of piece turns what was asked for, with what was measured, into parts with finished sizes. To add a kind: add its
file here with a function like ``box.work_out``, its fields to ``document.Piece``, and its line in ``stations/piece.py``.
"""
