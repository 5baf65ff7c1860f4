"""Lines of a log as people write them, each with what it means, told by hand: English, with German and French habits of numbers
and dates. Today is Sunday, 29 November 2026.

A line, what it is work on (a letter), and what else it says; what is not there is not told. `laid`: strips from, to, side (P, S, B
for both). `glue`: resin and hardener, g. `left`: words that have no meaning here and are to be shown so.
"""

from __future__ import annotations

from typing import Any

from hollow_keel.core.settings.log_entry import Task

TASKS = {
    "m": Task.MOLDS, "u": Task.SETTING_UP, "p": Task.PLANKING, "v": Task.VENEERS, "f": Task.FAIRING, "g": Task.GLASSING,
    "t": Task.TURNING,
    "r": Task.SHEER, "d": Task.DECK, "o": Task.OTHER,
}  # fmt: skip
Line = tuple[str, str, dict[str, Any]]


def laid(*runs: tuple[int, int, str]) -> dict[str, Any]:
    return {"laid": list(runs)}


HOURS: list[Line] = [
    (f"{text} sanding", "f", {"hours": hours})
    for text, hours in (
        ("2h", 2), ("2 h", 2), ("2hrs", 2), ("2 hrs", 2), ("2 hours", 2), ("1 hour", 1), ("1/2 h", 0.5), ("1/2h", 0.5),
        ("2 1/2 h", 2.5),
        ("2 1/2 hours", 2.5), ("2½h", 2.5), ("2½ h", 2.5), ("½ h", 0.5), ("1¼ hours", 1.25), ("3/4 hour", 0.75), ("1.5 h", 1.5),
        ("1,5 h", 1.5), ("1,5 Std", 1.5), ("2 Stunden", 2), ("2 heures", 2), ("1h30", 1.5), ("1h30m", 1.5), ("1h 30min", 1.5),
        ("1 h 30 min", 1.5), ("2 hours and 15 minutes", 2.25), ("1:30", 1.5), ("0:45", 0.75), ("90 min", 1.5), ("90min", 1.5),
        ("45 minutes", 0.75), ("30 mins", 0.5), ("half an hour", 0.5), ("an hour", 1), ("an hour and a half", 1.5),
        ("one and a half hours", 1.5), ("two and a half hours", 2.5), ("three quarters of an hour", 0.75),
        ("a quarter of an hour", 0.25),
        ("two hours", 2), ("a couple of hours", 2), ("2-hour", 2),
    )
]  # fmt: skip
TIMES: list[Line] = [
    (f"{text} sanding", "f", {"begin": begin, "end": end, "hours": (end - begin) / 60})
    for text, begin, end in (
        ("19:00-21:30", 1140, 1290), ("19:00 - 21:30", 1140, 1290), ("19:00–21:30", 1140, 1290), ("19.00-21.30", 1140, 1290),
        ("19h-21h", 1140, 1260), ("19h00 à 21h30", 1140, 1290), ("von 19 bis 21 Uhr", 1140, 1260), ("19-21:30", 1140, 1290),
        ("7pm-9:30pm", 1140, 1290), ("7-9:30pm", 1140, 1290), ("7 pm to 9 pm", 1140, 1260), ("7:15 pm until 9 pm", 1155, 1260),
        ("from 7 to 9 am", 420, 540), ("from 8 to 12", 480, 720), ("11am-1pm", 660, 780), ("9am-noon", 540, 720),
        ("9:00 till 12:30", 540, 750),
        ("between 7 and 9 pm", 1140, 1260), ("8.30-12.00", 510, 720), ("11-1pm", 660, 780),
    )
]  # fmt: skip
DAYS: list[Line] = [
    (f"{text} 2h sanding", "f", {"day": day, "hours": 2})
    for text, day in (
        ("today", "2026-11-29"), ("yesterday", "2026-11-28"), ("Yesterday,", "2026-11-28"), ("the day before yesterday",
        "2026-11-27"),
        ("last Friday", "2026-11-27"), ("on friday", "2026-11-27"), ("Fri", "2026-11-27"), ("Sat.", "2026-11-28"), ("sunday",
        "2026-11-29"),
        ("last sunday", "2026-11-22"), ("Monday:", "2026-11-23"), ("Thurs", "2026-11-26"), ("28 Sept", "2026-09-28"),
        ("28 Sept 2025", "2025-09-28"),
        ("28. Sept", "2026-09-28"), ("28. September 2026", "2026-09-28"), ("Sept 28", "2026-09-28"), ("September 28, 2025",
        "2025-09-28"),
        ("28th of September", "2026-09-28"), ("3rd Oct", "2026-10-03"), ("24 Dec", "2025-12-24"), ("12. März", "2026-03-12"),
        ("3. Okt.", "2026-10-03"), ("14 août", "2026-08-14"), ("le 2 mai 2026", "2026-05-02"), ("28.9.2026", "2026-09-28"),
        ("28.9.", "2026-09-28"),
        ("28.09.26", "2026-09-28"), ("am 28.9.", "2026-09-28"), ("2026-11-03", "2026-11-03"), ("on 2026-11-03", "2026-11-03"),
        ("28/9/2026", "2026-09-28"), ("3/4/26", "2026-04-03"), ("3 days ago", "2026-11-26"), ("two days ago", "2026-11-27"),
        ("a week ago", "2026-11-22"), ("last night", "2026-11-28"), ("gestern", "2026-11-28"), ("hier", "2026-11-28"),
        ("31.12.2025", "2025-12-31"),
    )
]  # fmt: skip
PEOPLE: list[Line] = [
    ("2h sanding, two of us", "f", {"hours": 2, "people": 2}),
    ("2h sanding, the two of us", "f", {"hours": 2, "people": 2}),
    ("2h sanding both of us", "f", {"hours": 2, "people": 2}),
    ("3 people 2h sanding", "f", {"hours": 2, "people": 3}),
    ("four hands, 2h sanding", "f", {"hours": 2, "people": 4}),
    ("2h sanding alone", "f", {"hours": 2}),
    ("2h sanding by myself", "f", {"hours": 2}),
    ("2h sanding with Ana", "f", {"hours": 2, "people": 2, "names": ("Ana",)}),
    ("2h with Ana and Per sanding", "f", {"hours": 2, "people": 3, "names": ("Ana", "Per")}),
    ("2h sanding with Ana, Per and Kim", "f", {"hours": 2, "people": 4, "names": ("Ana", "Per", "Kim")}),
    ("Ana and Per 2h sanding", "f", {"hours": 2, "people": 2, "names": ("Ana", "Per")}),
    ("Ana and I sanded 2h", "f", {"hours": 2, "people": 2, "names": ("Ana",)}),
    ("Me and Ana sanded 2h", "f", {"hours": 2, "people": 2, "names": ("Ana",)}),
    ("sanding: Ana 2h, Per 3h", "f", {"hours": 3, "people": 2, "names": ("Ana", "Per"), "own": (2, 3)}),
    ("Ana 2h, Per 1.5h, sanding", "f", {"hours": 2, "people": 2, "names": ("Ana", "Per"), "own": (2, 1.5)}),
    ("Ana 2 hours, Per 90 min: planked strips 3-4", "p",
     {"hours": 2, "people": 2, "names": ("Ana", "Per"), "own": (2, 1.5), **laid((3, 4, "B"))}),
    ("I 2h, Ana 3h sanding", "f", {"hours": 2, "people": 2, "names": ("Ana",), "own": (3,)}),
    ("Per & Ana 2h sanding", "f", {"hours": 2, "people": 2, "names": ("Per", "Ana")}),
    ("2h sanding with a friend", "f", {"hours": 2, "people": 2}),
    ("2h sanding with my son", "f", {"hours": 2, "people": 2}),
    ("2h sanding with two helpers", "f", {"hours": 2, "people": 3}),
    ("2h sanding with Ana, two of us", "f", {"hours": 2, "people": 2, "names": ("Ana",)}),
]  # fmt: skip
STRIPS: list[Line] = [
    ("2h planking strips 21-24 port", "p", {"hours": 2, **laid((21, 24, "P"))}),
    ("strips 21-24 port 2h", "p", {"hours": 2, **laid((21, 24, "P"))}),
    ("strips 21-24", "p", laid((21, 24, "B"))),
    ("strips 21 to 24 starboard", "p", laid((21, 24, "S"))),
    ("strips 21–24 stbd", "p", laid((21, 24, "S"))),
    ("strip 7 both sides", "p", laid((7, 7, "B"))),
    ("strip 7", "p", laid((7, 7, "B"))),
    ("strip no. 7 port", "p", laid((7, 7, "P"))),
    ("strip #7 to port", "p", laid((7, 7, "P"))),
    ("strips 21, 22, 23", "p", laid((21, 23, "B"))),
    ("strips 21, 22 and 23 fitted", "p", laid((21, 23, "B"))),
    ("strips 21 & 22", "p", laid((21, 22, "B"))),
    ("strips 4, 7 and 9 port", "p", laid((4, 4, "P"), (7, 7, "P"), (9, 9, "P"))),
    ("strips 1-4 and 7-8", "p", laid((1, 4, "B"), (7, 8, "B"))),
    ("strips 1-4 port, 5-6 starboard", "p", laid((1, 4, "P"), (5, 6, "S"))),
    ("1-4 port, 5-6 starboard", "p", laid((1, 4, "P"), (5, 6, "S"))),
    ("strips port 1-4, starboard 1-3", "p", laid((1, 4, "P"), (1, 3, "S"))),
    ("port strips 1-4", "p", laid((1, 4, "P"))),
    ("strips 1-4 port and starboard", "p", laid((1, 4, "B"))),
    ("strips 1-4 p&s", "p", laid((1, 4, "B"))),
    ("planked 21-24 port", "p", laid((21, 24, "P"))),
    ("laid 21-24", "p", laid((21, 24, "B"))),
    ("fitted strips 12 and 13 to starboard, 1h", "p", {"hours": 1, **laid((12, 13, "S"))}),
    ("glued strips 9-10 port", "p", laid((9, 10, "P"))),
    ("edge-glued strips 9-10 port", "p", laid((9, 10, "P"))),
    ("nailed strips 3-5", "p", laid((3, 5, "B"))),
    ("hung strips 3-5 port in 2h", "p", {"hours": 2, **laid((3, 5, "P"))}),
    ("strips 3-5 went on easily", "p", {**laid((3, 5, "B")), "left": ("went", "easily")}),
    ("put on strips 3-5", "p", {**laid((3, 5, "B")), "left": ("put",)}),
    ("strips 3-5 on", "p", laid((3, 5, "B"))),
    ("strips 3-5 port on by noon", "p", {**laid((3, 5, "P"))}),
    ("strips 9-10 done", "p", laid((9, 10, "B"))),
    ("strips 9-10 finished", "p", laid((9, 10, "B"))),
    ("strips 11-12 port, strips 11-13 starboard", "p", laid((11, 12, "P"), (11, 13, "S"))),
    ("planks 3-4 port", "p", laid((3, 4, "P"))),
    ("2h strips 5-8, cold hands", "p", {"hours": 2, **laid((5, 8, "B")), "left": ("hands",)}),
    ("cut and fitted strips 5-8", "p", laid((5, 8, "B"))),
    ("planking 3h", "p", {"hours": 3}),
    ("3h planking, 6 strips", "p", {"hours": 3}),
    ("planked 6 strips in 3h", "p", {"hours": 3}),
    # what lays nothing
    ("milled strips 1-65", "p", {}),
    ("milled strips 1-65, 5h", "p", {"hours": 5}),
    ("strips 1-20 sanded", "f", {}),
    ("strips 1-20, sanded", "f", {}),
    ("sanded strips 1-20 2h", "f", {"hours": 2}),
    ("ripped strips 1-30 from the plank", "p", {}),
    ("scarfed strips 1-10", "p", {}),
    ("glued scarfs of strips 1-10", "p", {}),
    ("scarfed and glued strips 1-10", "p", {}),
    ("cut strips 5-8 to length", "p", {"left": ("length",)}),
    ("dry-fitted strips 5-8", "p", {}),
    ("strips 9-10 not done", "p", {}),
    ("strips 9-10 not on yet", "p", {"left": ("yet",)}),
    ("didn't get strips 9-10 on", "p", {"left": ("get",)}),
    ("strips 21-24 tomorrow", "p", {}),
    ("next: strips 21-24", "p", laid((21, 24, "B"))),
    ("must still lay strips 21-24", "p", {}),
    ("removed staples from strips 5-8", "p", {}),
    ("took strips 5-6 off again", "p", {}),
    ("pulled strip 12 off, it had crept", "p", {}),
    ("cleaned up glue on strips 5-8", "p", {"left": ("glue",)}),
    ("marked strips 1-40 on the molds", "p", {}),
    ("strips 1-10 beveled", "p", {}),
    ("strips 1-10 varnished", "p", {}),
    ("strips 1-10 whittled", "p", {"left": ("whittled",)}),
    ("strips 900", "p", {}),
    ("planked strips 60-70", "p", {}),
    ("half of strip 9 on", "p", {}),
    ("bought strips 1-65", "p", {}),
    ("numbered strips 1 to 65", "p", {}),
    ("strips 1-65 delivered", "p", {}),
    ("mistake: strip 12 slipped, mend: glued again", "p", {"told": "mistake"}),
    ("Mistake, strips 3-4 laid upside down because the light was out", "p", {"told": "mistake"}),
    ("decision: leave the stem proud because the cap hides it", "o", {"told": "decision"}),
    ("setting: clamps every 200 mm", "o", {"told": "setting"}),
]  # fmt: skip
DONE: list[Line] = [
    ("planking done", "p", {"finished": True}),
    ("planking finished, 4h", "p", {"finished": True, "hours": 4}),
    ("fairing done 3h", "f", {"finished": True, "hours": 3}),
    ("all molds done", "m", {"finished": True}),
    ("molds done", "m", {"finished": True}),
    ("sanding complete", "f", {"finished": True}),
    ("glassing completed", "g", {"finished": True}),
    ("setting up done", "u", {"finished": True}),
    ("turning over done 2h", "t", {"finished": True, "hours": 2}),
    ("planking not done", "p", {}),
    ("fairing nearly done", "f", {}),
    ("fairing half done", "f", {}),
    ("fairing isn't finished", "f", {}),
    ("molds 1-12 done 5h", "m", {"hours": 5, "molds": [str(k) for k in range(1, 13)]}),
    ("strips 9-10 done, 2h", "p", {"hours": 2, **laid((9, 10, "B"))}),
    ("done for today", "o", {}),
    ("sheer done", "r", {"finished": True}),
    ("planking to be finished", "p", {"finished": True}),
]  # fmt: skip
OTHER_LISTS: list[Line] = [
    ("molds 3, 4 and 6-8 2h", "m", {"hours": 2, "molds": ["3", "4", "6", "7", "8"]}),
    ("cut molds 1-4", "m", {"molds": ["1", "2", "3", "4"]}),
    ("moulds 5 & 6", "m", {"molds": ["5", "6"]}),
    ("mold 7 trued", "m", {"molds": ["7"]}),
    ("set up molds 1-6 3h", "u", {"hours": 3, "molds": [str(k) for k in range(1, 7)]}),
    ("setting up molds 1-3", "u", {"molds": ["1", "2", "3"]}),
    ("2h molds", "m", {"hours": 2}),
    ("12 molds cut", "m", {}),
    ("veneers 4 to 9 starboard 2h", "v", {"hours": 2, "veneers": (4, 9, "S")}),
    ("stapled veneers 4-9 port", "v", {"veneers": (4, 9, "P")}),
    ("veneers 1-3", "v", {"veneers": (1, 3, "B")}),
    ("cut veneers 1-30", "v", {}),
    ("deck strips 1-6 2h", "d", {"hours": 2, **laid((1, 6, "B"))}),
    ("laid deck strips 1-6 port", "d", laid((1, 6, "P"))),
    ("frames 2-5 bent", "o", {}),
    ("steamed frames 2, 3 and 4", "o", {}),
    ("deck beams 1-3 fitted, 2h", "r", {"hours": 2}),
    ("2 sheets cut", "o", {"sheets": 2}),
    ("cut 2 1/2 sheets of ply", "o", {"sheets": 2.5, "left": ("ply",)}),
    ("6.5 m of inwale 3h", "r", {"hours": 3, "metres": 6.5}),
    ("6,5 m of rail", "r", {"metres": 6.5}),
    ("20 ft of outwale, 2h", "r", {"hours": 2, "metres": 6.096}),
    ("2h 5 m of ash inwale", "r", {"hours": 2, "metres": 5, "left": ("ash",)}),
    ("used 46 m of red cedar", "p", {"wood": ("red cedar", 46)}),
    ("used up 20 m of strip stock", "p", {"wood": ("strip stock", 20)}),
    ("2h strips 3-5, used 46 m of red cedar", "p", {"hours": 2, "wood": ("red cedar", 46), **laid((3, 5, "B"))}),
    ("used 150 ft of cedar", "p", {"wood": ("cedar", 45.72)}),
    ("glassed the outside 4h three of us", "g", {"hours": 4, "people": 3}),
    ("second coat 1h", "g", {"hours": 1}),
    ("turned over with four people, 1h", "t", {"hours": 1, "people": 4}),
    ("swept the floor", "o", {"left": ("floor",)}),
    ("30 min tidied up", "o", {"hours": 0.5}),
    ("drew the lines full size 3h", "o", {"hours": 3, "left": ("lines", "full", "size")}),
    ("longboarding port side 2h", "f", {"hours": 2, "side": "P"}),
    ("planed the sheer 1h", "f", {"hours": 1}),
    ("sanding 1h with 80 grit", "f", {"hours": 1, "left": ("80", "grit")}),
]  # fmt: skip
GLUE: list[Line] = [
    (f"strips 1-2, {text}", "p", {"glue": [parts], **laid((1, 2, "B"))})
    for text, parts in (
        ("250 g", (250, 0)), ("250g", (250, 0)), ("250 grams", (250, 0)), ("250 g of glue", (250, 0)), ("250 g epoxy", (250, 0)),
        ("200+40 g", (200, 40)), ("200 + 40 g", (200, 40)), ("200/40 g", (200, 40)), ("200 g + 40 g", (200, 40)),
        ("200 g resin + 40 g hardener", (200, 40)), ("200 g of resin and 40 g of hardener", (200, 40)), ("0.25 kg", (250, 0)),
        ("1/4 kg of glue", (250, 0)), ("9 oz", (255.1, 0)), ("9 oz of epoxy", (255.1, 0)), ("1 lb of epoxy", (453.6, 0)),
        ("1/2 lb", (226.8, 0)),
        ("200 ml", (218.6, 0)), ("0,2 l", (218.6, 0)), ("1/2 cup of epoxy", (129.3, 0)), ("2 cups", (517.2, 0)), ("3 pumps",
        (90, 0)),
        ("three pumps of epoxy", (90, 0)), ("200 ml resin + 100 ml hardener", (230, 98)), ("50g", (50, 0)), ("120,5 g",
        (120.5, 0)),
    )
]  # fmt: skip
WARMTH: list[Line] = [
    (f"strips 1-2, 250 g {text}", "p", {"glue": [(250, 0)], "warm": warm, **laid((1, 2, "B"))})
    for text, warm in (
        ("at 14 C", 14), ("at 14°C", 14), ("14 °C", 14), ("at 14°", 14), ("14 degrees", 14), ("at 57 F", 13.9), ("57°F", 13.9),
        ("at 57 degrees F", 13.9), ("at 60 degrees", 15.6), ("@ 14C", 14), ("at -2 C", -2), ("at 14,5 C", 14.5),
        ("bei 14 °C", 14),
    )
] + [
    ("2h sanding at 14 C", "f", {"hours": 2, "temperature": 14}),
    ("cold, 4 °C, swept up", "o", {"temperature": 4}),
    ("57 F", "o", {"temperature": 13.9}),
    ("90 g at 17 C mixed 19:10 used up 19:35 strips 1-2", "p",
     {"glue": [(90, 0)], "warm": 17, "mixed": 1150, "used_up": 1175, **laid((1, 2, "B"))}),
    ("90 g mixed at 7:10 pm, used by 7:35 pm, strips 1-2", "p", {"glue": [(90, 0)], "mixed": 1150,
    "used_up": 1175, **laid((1, 2, "B"))}),
    ("90 g mixed 19h10 strips 1-2", "p", {"glue": [(90, 0)], "mixed": 1150, **laid((1, 2, "B"))}),
    ("two batches, 90 g and 80 g, strips 1-2", "p", {"glue": [(90, 0), (80, 0)], **laid((1, 2, "B"))}),
    ("2 kg of screws", "o", {"left": ("2 kg", "screws")}),
    ("5 l of paint", "o", {"left": ("5 l", "paint")}),
    ("200 g glass cloth 2h", "g", {"hours": 2, "glue": [(200, 0)]}),
]  # fmt: skip
TOGETHER: list[Line] = [
    ("2h planking strips 21-24 port, 250 g at 14 C, two of us", "p",
     {"hours": 2, "people": 2, "glue": [(250, 0)], "warm": 14, **laid((21, 24, "P"))}),
    ("Yesterday 7pm-9:30pm with Ana: strips 21, 22 and 23 port, 24 starboard, 9 oz at 57 F", "p",
     {"day": "2026-11-28", "begin": 1140, "end": 1290, "hours": 2.5, "people": 2, "names": ("Ana",), "glue": [(255.1, 0)],
     "warm": 13.9,
      **laid((21, 23, "P"), (24, 24, "S"))}),
    ("28.9. 2½h strips 3-5 both sides, 120,5 g bei 18 °C, two of us", "p",
     {"day": "2026-09-28", "hours": 2.5, "people": 2, "glue": [(120.5, 0)], "warm": 18, **laid((3, 5, "B"))}),
    ("last Friday 1h30m, molds 3, 4 and 6-8 cut, 2 sheets", "m",
     {"day": "2026-11-27", "hours": 1.5, "molds": ["3", "4", "6", "7", "8"], "sheets": 2}),
    ("planked strips 5-8, sanded the rest", "p", {**laid((5, 8, "B")), "left": ("rest",)}),
    ("strips 5-8 port. Swept the floor. 2h", "p", {"hours": 2, "left": ("floor",), **laid((5, 8, "P"))}),
    ("9:00-14:00 molds 1-3 cut and trued, done, two of us", "m",
     {"begin": 540, "end": 840, "hours": 5, "people": 2, "molds": ["1", "2", "3"]}),
    ("Sat. 9am-noon: setting up molds 1-3, three of us", "u",
     {"day": "2026-11-28", "begin": 540, "end": 720, "hours": 3, "people": 3, "molds": ["1", "2", "3"]}),
    ("veneers 12-15 port, 1 kg of epoxy at 20 C, 3h with Per", "v",
     {"hours": 3, "people": 2, "names": ("Per",), "glue": [(1000, 0)], "warm": 20, "veneers": (12, 15, "P")}),
    ("Sunday: faired both sides 2h alone", "f", {"day": "2026-11-29", "hours": 2}),
    ("strips 30-31; 1h; 60 g", "p", {"hours": 1, "glue": [(60, 0)], **laid((30, 31, "B"))}),
    ("1h strip 33 port (45 g)", "p", {"hours": 1, "glue": [(45, 0)], **laid((33, 33, "P"))}),
    ("2h: strips 40-42 port then 40-41 starboard", "p", {"hours": 2, **laid((40, 42, "P"), (40, 41, "S"))}),
    ("le 2 mai 2026, 1h30, strips 1-2, 0,2 l", "p", {"day": "2026-05-02", "hours": 1.5, "glue": [(218.6, 0)], **laid((1, 2,
    "B"))}),
    ("3. Okt. von 19 bis 21 Uhr strips 7-8 port, 80 g", "p",
     {"day": "2026-10-03", "begin": 1140, "end": 1260, "hours": 2, "glue": [(80, 0)], **laid((7, 8, "P"))}),
]  # fmt: skip
REFUSED: list[tuple[str, str]] = [
    ("", "Nothing is typed"), ("2h and 3h", "twice"), ("2h sanding, 3h planking", "twice"), ("30h sanding", "no day's work"),
    ("0 h sanding", "no day's work"), ("21:00-19:00", "before it begins"), ("strips 24-21 2h", "no numbers"), ("strip 0",
    "no numbers"),
    ("2026-12-24 2h", "still to come"), ("24.12.2026 2h", "still to come"), ("2026-02-30 2h", "no day"), ("31.2.2026 2h",
    "no day"),
    ("30 Feb 2026 2h", "no day"), ("mixed 19:10 2h", "how much"), ("strips 1-2 90 g at 90 C", "no temperature"), ("1.250 g",
    "could be"),
    ("strips 1-2, 1,250 g", "could be"), ("3-5 h sanding", "could be"), ("yesterday and 28.9.2026", "Two days"),
    ("25:00-26:00", ""),
    ("sanding 7-9h", "could be"), ("0 people 2h", "none"),
]  # fmt: skip
EVERY: list[Line] = [
    *HOURS, *TIMES, *DAYS, *PEOPLE, *STRIPS, *DONE, *OTHER_LISTS, *GLUE, *WARMTH, *TOGETHER,
]  # fmt: skip
