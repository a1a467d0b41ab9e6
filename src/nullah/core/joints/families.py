"""The families of joints there are, each a file and a line here."""

from __future__ import annotations

from nullah.core.joints.breadboard import BREADBOARD
from nullah.core.joints.bridle import BRIDLE
from nullah.core.joints.buttons import BUTTONS
from nullah.core.joints.dowels import DOWELS
from nullah.core.joints.edge import EDGE_JOINT
from nullah.core.joints.finger import FINGER_JOINT
from nullah.core.joints.half_blind import HALF_BLIND
from nullah.core.joints.housing import DADO, GROOVE, RABBET
from nullah.core.joints.lapped_dovetail import LAPPED_DOVETAIL
from nullah.core.joints.mitre import MITRE
from nullah.core.joints.mortise import MORTISE_AND_TENON
from nullah.core.joints.nailed_rabbet import NAILED_RABBET
from nullah.core.joints.screws import BATTEN, SCREWS
from nullah.core.joints.shared_rod import SHARED_ROD
from nullah.core.joints.sliding_dovetail import SLIDING_DOVETAIL
from nullah.core.joints.sliding_lid import SLIDING_LID
from nullah.core.joints.spline import SPLINE
from nullah.core.joints.through_dovetail import THROUGH_DOVETAIL
from nullah.core.joints.toed_nails import TOED_NAILS
from nullah.core.joints.tusk import TUSK
from nullah.core.marking.family import Family
from nullah.core.shaping.arris import BEVEL, CHAMFER, MOULDING, ROUND_OVER
from nullah.core.shaping.bored_hole import BORED_HOLE
from nullah.core.shaping.cut_out import CUT_OUT
from nullah.core.shaping.taper import TAPER

FAMILIES: dict[str, Family] = {
    family.name: family
    for family in (
        THROUGH_DOVETAIL,
        HALF_BLIND,
        FINGER_JOINT,
        MITRE,
        SLIDING_DOVETAIL,
        LAPPED_DOVETAIL,
        DADO,
        GROOVE,
        SLIDING_LID,
        RABBET,
        MORTISE_AND_TENON,
        BRIDLE,
        BREADBOARD,
        TUSK,
        TAPER,
        SCREWS,
        BATTEN,
        BUTTONS,
        EDGE_JOINT,
        SPLINE,
        DOWELS,
        NAILED_RABBET,
        TOED_NAILS,
        SHARED_ROD,
        CUT_OUT,
        CHAMFER,
        BEVEL,
        ROUND_OVER,
        MOULDING,
        BORED_HOLE,
    )
}
