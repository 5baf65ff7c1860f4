"""The rules of the trade: every number that is a builder's rather than ours, named once, with its unit and where it comes from.

*Common practice* is what builders do, with no source to name. What a builder may decide himself is a setting with its own record
(`settings`); what only makes the arithmetic converge stays where the arithmetic is. Lengths mm.

Signs that the whole program keeps. A bevel is told by its size; where it has a sign it is positive for a standing bevel and
negative for an under bevel, seen from the reference face. An error of a mold is what was measured less the plan: positive up, to
starboard, away from the zero.
"""

from __future__ import annotations

from typing import Final

# -- molds ---------------------------------------------------------------------------------------------

PROUD_MM: Final = 0.3
"""A square edge that stands less proud of the planking than this is within the saw's own line (common practice)."""
TRAPPED_MM: Final = 3.0
"""A planked hull springs open by so much at the sheer without harm (common practice)."""
LEAST_RING_MM: Final = 25.0
"""A ring narrower than this breaks in the hand (common practice)."""
ROUND_MM: Final = 12.0
"""Radius of the inner corners of a ring's opening: a saw turns there and a crack does not start (common practice)."""
WEB_MM: Final = 40.0
"""Wood left round the beam's hole in a ring, and between that hole and a mold's edge (common practice)."""
MOST_HOLES: Final = 12
"""Lightening holes on each side of a mold."""
LARGEST_HOLE_MM: Final = 240.0
SMALLEST_HOLE_MM: Final = 60.0
"""Diameters of lightening holes (common practice)."""
ROOTED_MM: Final = 60.0
"""Legs begin so far inside the body of the mold: a ring's upper bar is at least about as wide (common practice)."""
IN_FROM_SHEER_MM: Final = 5.0
"""A leg stays so far inside the half-breadth at the sheer, so that nothing stands proud of the planking line."""
GUSSET_HALF_MM: Final = 140.0
GUSSET_HIGH_MM: Final = 160.0
"""A gusset's half-length across the butt and its height, where the mold has so much wood (common practice)."""
SET_BACK_MM: Final = 12.0
"""A gusset stays so far inside the mold's edge, out of the way of strips and clamps (common practice)."""
SCREW_MM: Final = 14.0
BUTT_MM: Final = 25.0
"""Screws stand so far inside a plate's edge, which keeps them an inch from the mold's, and so far from the butt (common
practice)."""
LEAST_GUSSET_MM2: Final = 4000.0
LEAST_SCREWS: Final = 4
"""A smaller plate, or one with fewer screws, holds nothing (common practice)."""
LANDING_MM: Final = 40.0
"""Planking lands on an inner stem over about so much (common practice)."""
FLAT_MM: Final = 6.0
"""A transom whose edge leaves a plane by less is flat, and one that leaves a round face by less is round (common practice)."""
CLEAR_OF_BEVEL_MM: Final = 25.0
"""The mold of a transom stays so far inside the transom's edge, clear of its bevel (common practice)."""
TRANSOM_LEG_MM: Final = 80.0
"""Width of the legs of a transom's mold (common practice)."""
RIB_DEEP_MM: Final = 70.0
RIBS_UP: Final = (0.9, 0.5)
"""A bent transom is clamped over ribs so deep, at such shares of its height (common practice)."""
CALL_MM: Final = 100.0
"""Bevels are called out at such steps along the edge (common practice)."""
FOIL: Final = (0.2969, -0.1260, -0.3516, 0.2843, -0.1015)
"""Coefficients of √x, x, x², x³ and x⁴ of the four-digit thickness form, x and thickness in chords (Abbott and von Doenhoff,
Theory of Wing Sections; from memory)."""
LEAST_LINE_MM: Final = 20.0
"""Shorter bits of a waterline or buttock are not drawn on a mold."""
SAME_LINE_MM: Final = 5.0
"""Nor is a waterline so near the load waterline: one line on the mold is the load waterline."""
LEAST_BEVEL_DEG: Final = 3.0
"""Planking that comes to a stem at a smaller angle to the centre plane is taken to come at this one: its forward face would be set
back without end."""

# -- setting up ----------------------------------------------------------------------------------------

FAR_ZERO_MM: Final = 1000.0
"""A zero may lie so far before the first mold, whatever the molds are apart, before it is looked at."""
OVERHANG_MM: Final = 150.0
"""A strongback is so much longer than its molds at each end (common practice)."""
LEAST_CLEAR_MM: Final = 50.0
"""Less room than this between hull and strongback lets no hand or clamp in (common practice)."""
CLEAR_MM: Final = 150.0
"""Room between a table or rails and the highest sheer or stem head, for hands and clamps (common practice)."""
ROUND_UP_MM: Final = 5.0
"""A fitted height of the waterline above the strongback is a multiple of this: it is marked by hand many times over."""
REACH_MM: Final = 1700.0
"""Higher above the floor than this a builder works from a step (common practice)."""
NEVER_MM: Final = 0.4
"""An error of a mold that never matters: a sixty-fourth of an inch (common practice). What will not show and what must be mended
are the builder's settings."""
SWEEP_MM: Final = 4.0
"""Usual size (standard deviation) of a smooth sag or bend of a strongback (common practice)."""
SMOOTH_SHARE: Final = 0.55
"""Such a sweep is smooth over about this share of the strongback's length (common practice)."""
DATUM_MM: Final = 300.0
"""Usual size of an error that all readings share: a datum taken from the wrong place (common practice)."""
FAULT_MM: Final = 9.0
"""Usual size (standard deviation) of a fault of one mold (common practice)."""
RARE: Final = 0.06
"""Share of molds that are out before anything is measured (common practice)."""
ALONG_SWEEP: Final = 0.8
ACROSS_SWEEP: Final = 4.0
TURN_SWEEP: Final = 1.5
"""Usual size, mm, of a smooth error along, across and in turning that all molds of a strongback share (common practice)."""
WRONG_UNITS: Final = (10.0, 0.1, 25.4, 1 / 25.4)
"""A reading so many times its plan was read in another unit, or with the point in the wrong place."""
ARM_MM: Final = 600.0
"""What is seen along the molds is drawn as it would be on a pane at arm's length."""
LEAST_MOLDS: Final = 4
"""A batten over fewer molds shows nothing (common practice)."""

# -- strips --------------------------------------------------------------------------------------------

SHEAR_SHARE: Final = 1 / 16
"""Modulus of rigidity of wood as a share of its modulus in bending (Wood Handbook, FPL-GTR-282: about so; from memory)."""
BY_HAND: Final = 0.35
WITH_CLAMPS: Final = 0.7
WITH_HEAT: Final = 2.0
"""Shares of the strain (or shear) at which the wood breaks, up to which it is bent by hand, with clamps, with heat (common
practice)."""
BEYOND: Final = 4.0
"""Heat brings no strip sideways that needs so many times the push of a clamp (common practice)."""
STRETCH_MM: Final = 60.0
"""Over so much of its length wood is bent as a whole: what turns within less of it does not bend it (common practice)."""
LONE_SPAN_MM: Final = 400.0
"""Taken for the span between molds where there are fewer than two."""
SAGS_MM: Final = 1.0
"""A hollow that is shallower between two molds will not show (common practice)."""
SLIVER_SHARE: Final = 0.4
"""A last strip that nowhere has so great a share of its width is better glued to the one before it (common practice)."""
OFF_FAIR_MM: Final = 0.8
"""An edge that stands so far off the line through its own neighbours, some 15 to 60 mm away, is not fair: no source; a batten shows
the half of it."""
GLUE_FILLS_MM: Final = 0.15
"""A strip that is to be wider than what it is cut from by no more is not told apart: glue fills it (common practice)."""
MILLED_WIDER_MM: Final = 0.6
MILLED_WIDER_SHARE: Final = 0.05
"""Strips that have to be wider by no more, or by no greater share, are milled so; a plan with wider ones is refused (common
practice)."""
STANDS_OPEN_MM = 2.5
"""Where lines of equal distance meet in a corner, mm that a strip may stand open there, and a plan is made and says so."""
BLUNT_DEG: Final = 45.0
"""Strips that come in more steeply to the centreline do not lie along each other: they are cut to the line (common practice)."""
STEP_SHARE: Final = 0.5
"""Sides may differ by so much, and a strip may be out of step by such a share of its width, before it is said (common practice)."""
FEW_STRIPS: Final = 12
"""No more strips than this are a few."""
DRIFT_MM: Final = 3.0
"""Molds whose readings part from the plan by no more have not drifted (common practice)."""
EASED: Final = 0.15
"""Mixed strips begin to taper gradually, over this share of the hull's length (common practice)."""
FADES: Final = 0.5
"""A dropped strip fades over so great a share of the way from where strips grow too narrow to the end of the hull, as much on
either side of that place (common practice)."""
LEVEL_SHARE: Final = 0.8
"""Share of the hull over which a run is level with the limit to half a strip when a few tapered strips have brought it back
(common practice)."""
ROOM_TO_TAPER: Final = 0.8
"""The least width may be at most so great a share of the strip's own: else there is nothing to taper (common practice)."""

# -- wood, joints and glue -----------------------------------------------------------------------------

PLANED_MM: Final = 3.0
"""More than this is sawn off, not planed (common practice)."""
VERY_TIGHT_MM: Final = 0.2
"""What is left over all cuts when a count leaves next to no margin."""
REFERENCE_C: Final = 20.0
"""A glue's pot life is told at this temperature, °C."""
HALVES_EVERY_C: Final = 10.0
"""Pot life halves for every so many degrees warmer (common practice)."""
GLUE_KG_PER_L: Final = 1.1
"""Weight of mixed glue with its filler, kg/l (common practice)."""
GLASS_KG_PER_L: Final = 2.54
"""Density of glass fibre, kg/l (from memory, as in handbooks of fibre composites)."""
GLASS_BY_HAND: Final = 0.35
"""Share of glass in the volume of cloth laid by hand (common practice: resin about as heavy as the cloth)."""
THINNEST_LAMINATION_MM: Final = 2.0
"""A thinner lamination cannot be planed (common practice)."""
BUCKET_TEST: Final = ((0.0, 0.45), (45.0, 0.59), (60.0, 1.0))
"""Joints cut at an angle: degrees from square, strength relative to the joint at 60° (common practice)."""
SCARFS: Final = ((4.0, 0.65), (8.0, 0.85), (10.0, 0.90), (12.0, 0.95), (20.0, 0.97))
"""Scarfs: slope, strength relative to clear wood (Wood Handbook, FPL-GTR-282, plain scarf joints in tension: 0.90 at 1 in 10, 0.95
at 1 in 12; from memory); below 8:1 and above 12:1 little more than a guess."""
JOINT_COST: Final = 15.0
"""What a joint counts as in work, in mm of waste beside the length it takes (common practice)."""
SHORT_MM: Final = 1.0
"""Wood that is shorter than the plan by no more is long enough."""
SAME_SECTION_MM: Final = 0.05
"""Sections that differ by no more are one."""

# -- water ---------------------------------------------------------------------------------------------

FRESH: Final = 1000.0
SALT: Final = 1025.0
"""Density of water, kg/m³ (common practice)."""


def given_back(count: int) -> float:
    """The share of its bend that a stack of laminations gives back when it leaves the form: bent one by one they hold n times the
    moment of one, and glued they are n³ times as stiff: 1/n² (elastic beam theory, for glue that does not creep). Of one alone
    nothing is told: 0."""
    return 1.0 / count**2 if count > 1 else 0.0


def pot_life(at_reference: float, temperature: float) -> float:
    """Minutes that a batch can be used at a `temperature` (°C), from its minutes at `REFERENCE_C`."""
    return float(at_reference * 2 ** ((REFERENCE_C - temperature) / HALVES_EVERY_C))


def cove_of(cutter: float, thickness: float) -> float:
    """How deep a cutter of radius r (mm) makes the cove of a strip t thick: r - √(r² - t²/4)."""
    half = min(thickness / 2, cutter)
    return float(cutter - (cutter**2 - half**2) ** 0.5)
