"""Longer texts of the window."""

FIRST_STEPS = """<h3>First steps</h3>
<ol>
<li><b>Offsets</b>: import a CSV, paste from a spreadsheet, or type. Any unit works in any cell: 1613, 63.5in,
5' 3 1/2", 5-3-4 (feet-inches-eighths), 42 1/2 + 3/4.</li>
<li><b>Molds</b>: give the thickness of the planking and of the mold sheet. Step through the molds on the keel line
at the foot of the window. <i>Stations › Where molds stand</i> changes their places.</li>
<li><b>Setting up</b>: marks from one zero along the beam, gaps, and the height of the waterline.</li>
<li><b>Planking</b>: give the strip's width; pick a strip to see its length and how it bends.</li>
<li><b>Stock</b>: type the boards you have and what is for sale; how they are sawn, which piece goes where and what to
buy follows.</li>
<li><b>Print</b>: patterns at full size (measure the 100 mm bar before you cut), the setting-up sheet, the strips,
the wood.</li>
</ol>
<p>Every change can be undone. Ctrl+K finds any command. F fits a drawing, M measures in it.</p>"""

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
