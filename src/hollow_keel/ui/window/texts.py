"""Longer texts of the window."""

DRAWING_KEYS = (
    ("Tab", "the next dotted number of a drawing; Shift+Tab the one before"),
    ("Enter, or a figure", "type the chosen number; Enter keeps it, Esc gives it up"),
    ("F", "fit the drawing"),
    ("M", "measure between two points"),
    ("+ and −", "nearer and farther"),
    ("Left, Right", "on the keel line: from mold to mold"),
    ("Up, Down", "in the order of work: from stage to stage"),
    ("Space, Page Down, Page Up", "in bench mode: on and back, as a foot pedal sends them"),
)
"""Keys that are in no menu."""

CAUTIONS = """<h3>Working safely</h3>
<ul>
<li>Wood dust harms lungs, and some cedars sensitise strongly: collect it and wear a mask that filters it.</li>
<li>Table saw: guard, featherboard, push sticks or a feeder, and hearing protection.</li>
<li>Epoxy: gloves, ventilation; a full pot heats by itself; sensitisation does not go away.</li>
<li>Lifting and turning a hull, and a form under tension: enough hands and a plan.</li>
<li>Measure the printed proof bar before cutting any pattern.</li>
</ul>
<p>Hollow Keel plans shape and material. It does not certify a boat: structure, stability, buoyancy and electrical work
follow the rules in force where the boat is used, and a licensed designer or surveyor where they ask for one.</p>"""
