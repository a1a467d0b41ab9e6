"""The seven stations: each a pure function of the project and of the stations upstream of it.

Order: piece, timber, breakdown, trueup, joints, together, bench. Downstream may import upstream, never the reverse.
"""
