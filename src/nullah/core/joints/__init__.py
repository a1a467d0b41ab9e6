"""One file a joint family: geometry, settings, the order of marking and cutting, checks.

A joint knows sizes in mm and nothing of stations or of other joints. To add a family: add its file here, returning a
``JointPlan``, and one line in ``families.py``, which has those of ``core/shaping`` as well.
"""
