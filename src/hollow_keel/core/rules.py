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

KERF_MM: Final = 3.0
"""A hand-held saw's cut (common practice)."""
LEAST_DECK_MOLD_MM: Final = 20.0
"""A mold whose deck part is less wide than this to a side has no room for one (common practice)."""
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
"""Lightening holes on each side of a mold (ours)."""
LARGEST_HOLE_MM: Final = 240.0
SMALLEST_HOLE_MM: Final = 60.0
"""Diameters of lightening holes (common practice)."""
ROOTED_MM: Final = 60.0
"""Legs begin so far inside the body of the mold: a ring's upper bar is at least about as wide (common practice)."""
IN_FROM_SHEER_MM: Final = 5.0
"""A leg stays so far inside the half-breadth at the sheer, so that nothing stands proud of the planking line (ours)."""
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
"""Shorter bits of a waterline or buttock are not drawn on a mold (ours)."""
SAME_LINE_MM: Final = 5.0
"""Nor is a waterline so near the load waterline: one line on the mold is the load waterline (ours)."""
LEAST_BEVEL_DEG: Final = 3.0
"""Planking that comes to a stem at a smaller angle to the centre plane is taken to come at this one: its forward face would be set
back without end (ours)."""

# -- setting up ----------------------------------------------------------------------------------------

LEAST_AWAY_MM: Final = 300.0
"""The eye stands at least so far from the first mold that it sights along (common practice)."""
FAR_ZERO_MM: Final = 1000.0
"""A zero may lie so far before the first mold, whatever the molds are apart, before it is looked at (ours)."""
OVERHANG_MM: Final = 150.0
"""A strongback is so much longer than its molds at each end (common practice)."""
LEAST_CLEAR_MM: Final = 50.0
"""Less room than this between hull and strongback lets no hand or clamp in (common practice)."""
CLEAR_MM: Final = 150.0
"""Room between a table or rails and the highest sheer or stem head, for hands and clamps (common practice)."""
ROUND_UP_MM: Final = 5.0
"""A fitted height of the waterline above the strongback is a multiple of this: it is marked by hand many times over (ours)."""
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
"""A reading so many times its plan was read in another unit, or with the point in the wrong place (by definition of the units)."""
ARM_MM: Final = 600.0
"""What is seen along the molds is drawn as it would be on a pane at arm's length (ours)."""
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
"""Taken for the span between molds where there are fewer than two (ours)."""
SAGS_MM: Final = 1.0
"""A hollow that is shallower between two molds will not show (common practice)."""
SLIVER_SHARE: Final = 0.4
"""A last strip that nowhere has so great a share of its width is better glued to the one before it (common practice)."""
OFF_FAIR_MM: Final = 0.8
"""An edge that stands so far off the line through its own neighbours, some 15 to 60 mm away, is not fair (ours; a batten shows
the half of it)."""
GLUE_FILLS_MM: Final = 0.15
"""A strip that is to be wider than what it is cut from by no more is not told apart: glue fills it (common practice)."""
MILLED_WIDER_MM: Final = 0.6
MILLED_WIDER_SHARE: Final = 0.05
"""Strips that have to be wider by no more, or by no greater share, are milled so; a plan with wider ones is refused (common
practice)."""
STANDS_OPEN_MM: Final = 2.5
"""Where lines of equal distance meet in a corner, mm that a strip may stand open there, and a plan is made and says so (ours)."""
BLUNT_DEG: Final = 45.0
"""Strips that come in more steeply to the centreline do not lie along each other: they are cut to the line (common practice)."""
STEP_SHARE: Final = 0.5
"""Sides may differ by so much, and a strip may be out of step by such a share of its width, before it is said (common practice)."""
FEW_STRIPS: Final = 12
"""No more strips than this are a few (ours)."""
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
"""What is left over all cuts when a count leaves next to no margin (ours)."""
REFERENCE_C: Final = 20.0
"""A glue's pot life is told at this temperature, °C (common practice: makers tell it so)."""
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
"""Wood that is shorter than the plan by no more is long enough (ours)."""
SAME_SECTION_MM: Final = 0.05
"""Sections that differ by no more are one (ours)."""

# -- veneers -----------------------------------------------------------------------------------------

FLATTEN_STRAIN: Final = 0.004
"""A veneer is pressed flat without puckering where that strains its edges by no more, a bare number (common practice)."""
MOST_LOST: Final = 0.35
"""A veneer that is spiled by a larger share of its width somewhere is told of (common practice)."""
OVER_WIDTH: Final = 0.02
"""A veneer may be wider than its layer asks for by such a share (common practice)."""
MOST_OPEN_SHARE: Final = 0.1
"""A larger share of a veneer's width left open beside it is a slip (common practice: a millimetre or two)."""
FOLDS_AT: Final = 0.5
"""Layers whose depth is more than such a share of the radius that they are bent round do not lie down on each other (common
practice)."""
PARALLEL_DEG: Final = 15.0
"""Layers whose directions differ by fewer degrees run the same way: their seams do not cross, and must not fall on each other
(common practice)."""
TOGETHER_MM: Final = 15.0
"""Seams that lie nearer to each other than this weaken the shell there (common practice)."""
UNSPILED_MM: Final = 1.0
"""Glue fills so much between two veneers (common practice)."""
OPEN_SHARE: Final = 0.8
"""Glue that is open for a larger share of its time when the veneer is down is told of (common practice)."""

# -- the deck ----------------------------------------------------------------------------------------

SLACK_MM: Final = 5.0
"""Room that a plate of a mold wants on its way out through an opening (common practice)."""
LEAST_BIT_MM: Final = 20.0
"""A shorter bit of a deck strip beside an opening is left out: it is glued in from a scrap (common practice)."""

# -- sheer and ends ----------------------------------------------------------------------------------

JOINTED_MM: Final = 3.0
"""What a board loses of its width to its two straight edges (common practice)."""
THINNEST_PLANK: Final = 0.35
"""No plank of a transom is narrower than this share of the widest: it would be a sliver (common practice)."""
READ_WITHIN_MM: Final = 1.0
"""How well an arc's radius is read: standard deviation (common practice)."""
WRONG_MM: Final = 10.0
WRONG_TIMES: Final = 5.0
"""A radius farther off than this, and than so many times the others, is read again (common practice)."""
USELESS_MM: Final = 50.0
"""Where the three arcs are no surer than this nothing is told of the shape (ours)."""

# -- the log -----------------------------------------------------------------------------------------

COLD_C: Final = 10.0
"""Below this temperature, °C, many resins do not set as they should (common practice; the maker's sheet goes first)."""
WARMER_C: Final = 10.0
MORE_HANDS: Final = 2
"""What the forecast asks about: a shed so much warmer, °C, and so many people more (ours)."""
CREWS_SPREAD: Final = 0.35
TASKS_SPREAD: Final = 0.25
PIECES_SPREAD: Final = 0.5
"""Standard deviations of the logarithms of hours against the plan: of crews, of a task beside its crew, and of single pieces of
work (common practice, put into numbers by us: two crews of three are within 1.4 times the plan)."""
WARMEST_C: Final = 45.0
"""A bare degree over that is one of Fahrenheit: nobody glues in such heat (common practice)."""
KEPT_EVENINGS: Final = 6.0
"""The share of evenings that is said to be kept counts for so many evenings, against those of the log (ours)."""

# -- water ---------------------------------------------------------------------------------------------

FRESH: Final = 1000.0
SALT: Final = 1025.0
"""Density of water, kg/m³ (common practice)."""


# -- formulas -------------------------------------------------------------------------------------------


def given_back(count: int) -> float:
    """The share of its bend that a stack of laminations gives back when it leaves the form: bent one by one they hold n times the
    moment of one, and glued they are n³ times as stiff: 1/n² (elastic beam theory, for glue that does not creep). Of one alone
    nothing is told: 0."""
    return 1.0 / count**2 if count > 1 else 0.0


def pot_life(at_reference: float, temperature: float) -> float:
    """Minutes that a batch can be used at a `temperature` (°C), from its minutes at `REFERENCE_C` (common practice: half
    for every `HALVES_EVERY_C` warmer)."""
    return float(at_reference * 2 ** ((REFERENCE_C - temperature) / HALVES_EVERY_C))


def cove_of(cutter: float, thickness: float) -> float:
    """How deep a cutter of radius r (mm) makes the cove of a strip t thick: r - √(r² - t²/4)."""
    half = min(thickness / 2, cutter)
    return float(cutter - (cutter**2 - half**2) ** 0.5)
