"""What is done to one part alone, a file each: chamfers, round-overs and mouldings, tapers, cut-outs, bored holes.

Each is a family as joints are, with one part and ``joins`` None. To add one, add its file here and its line in
``core/joints/families.py``.
"""
