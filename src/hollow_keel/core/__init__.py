"""Numbers only: no interface, no files, no printing.

Lengths are in mm and angles in radians where nothing else is said. The hull's frame: x aft from where the builder counts, y out
from the middle plane, z up from the base line. A surface has parameters u, from bow to stern,
and v, from its lower edge up, both from 0 to 1; curvatures are in 1/mm. Rows of points are (n, 3), of a drawing (n, 2).
"""
