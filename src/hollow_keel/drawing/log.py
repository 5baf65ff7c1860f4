"""The log in pictures: when each task is likely done, and hours and strips week by week."""

from __future__ import annotations

import math
from datetime import date

from ..core.log.days import MONTHS, day_text
from ..core.log.forecast import is_dated, week_words
from ..core.log.plan_of_work import WorkPlan
from ..core.words import counted
from .model import Drawing, Label, Layer, Stroke, box, line

ROW, TALL = 10.0, 6.0
"""Between two tasks, and how tall a span is; a day is one wide."""
WEEK_WIDE, HOURS_TALL = 7.0, 60.0
LEAST_DAYS = 28
WEEKS_APART, MOST_MARKS = 4, 8
SHOWN_WEEKS = 16
"""The last ones: more are not to be read."""


def day_words(day: date | None) -> str:
    """A day as it is said; the week of the work where no day of the calendar is known."""
    if day is None:
        return "not within ten years"
    return day_text(day) if is_dated(day) else week_words(day)


def _marks(starts: date, wide: float) -> list[tuple[float, str]]:
    """Where a new month begins, or every so many weeks, and how that is called, from the first day to so many later."""
    if not is_dated(starts):
        step = WEEKS_APART * max(1, math.ceil(wide / 7 / WEEKS_APART / MOST_MARKS))
        return [(7.0 * (k - 1), f"week {k}") for k in range(step, int(wide / 7) + 2, step)]
    found = []
    month = date(starts.year, starts.month, 1)
    while (month - starts).days <= wide:
        if month >= starts:
            found.append((float((month - starts).days), f"{MONTHS[month.month - 1]} {month.year}"))
        month = date(month.year + month.month // 12, month.month % 12 + 1, 1)
    return found


def forecast_drawing(work: WorkPlan) -> Drawing:
    """Every task that is left with the span in which it is likely done, by days from today; a line where it is as likely before as
    after."""
    told = [m for m in work.forecast.milestones if m.early and m.likely and m.late]
    if not told:
        return Drawing("Nothing is left to forecast", ())
    starts = work.forecast.starts
    strokes: list[Stroke] = []
    labels: list[Label] = []
    last = max((m.late - starts).days for m in told if m.late is not None)
    wide = max(float(last), LEAST_DAYS)
    bottom = -ROW * len(told)
    for first, last_free in work.forecast.free:
        left, right = (first - starts).days, min((last_free - starts).days + 1.0, wide)
        if left < wide:
            strokes.append(box(left, bottom, right, ROW / 2, Layer.NEIGHBOUR, "free", filled=True))
            labels.append(Label(((left + right) / 2, bottom), "no work", Layer.NOTE, "middle", -1))
    for at, name in _marks(starts, wide):
        strokes.append(line((at, ROW / 2), (at, bottom), layer=Layer.GRID))
        labels.append(Label((at, ROW / 2), name, Layer.NOTE, "left", 1))
    for k, own in enumerate(told):
        assert own.early is not None
        assert own.likely is not None
        assert own.late is not None
        level = -ROW * (k + 0.5)
        early, likely, late = ((day - starts).days for day in (own.early, own.likely, own.late))
        right = max(late, early + 1)
        strokes.append(box(early, level - TALL / 2, right, level + TALL / 2, Layer.STRIP, f"task:{own.task.value}", filled=True))
        strokes.append(line((likely, level - TALL / 2), (likely, level + TALL / 2), layer=Layer.SHEER_MARK))
        text = f"{own.task.value}: {day_words(own.likely)}"
        anchor = "left" if right < 0.6 * wide else "right"
        labels.append(
            Label((right if anchor == "left" else early, level), text, Layer.NOTE, anchor, 0, key=f"task:{own.task.value}")
        )
    strokes.append(line((0.0, ROW / 2), (0.0, bottom), layer=Layer.CENTRELINE))
    return Drawing("When each is done, eight of ten within its bar", tuple(strokes), tuple(labels), true_to_scale=False)


def weeks_drawing(work: WorkPlan) -> Drawing:
    """Hours of all week by week, with the strips a side that came on."""
    weeks = work.sums.weeks[-SHOWN_WEEKS:]
    if not weeks:
        return Drawing("No hours are logged yet", ())
    most = max(1.0, *(week.hours for week in weeks))
    strokes = [line((0.0, 0.0), (WEEK_WIDE * len(weeks), 0.0), layer=Layer.BEAM)]
    labels = []
    for k, week in enumerate(weeks):
        left, right = WEEK_WIDE * (k + 0.15), WEEK_WIDE * (k + 0.85)
        high = HOURS_TALL * week.hours / most
        strokes.append(box(left, 0.0, right, high, Layer.STRIP_ALT, filled=True))
        middle = (left + right) / 2
        strips = f", {counted(week.strips, 'strip')}" if week.strips else ""
        labels.append(Label((middle, high), f"{week.hours:g} h{strips}", Layer.NOTE, "middle", 1))
        labels.append(Label((middle, 0.0), f"{week.monday.day} {MONTHS[week.monday.month - 1]}", Layer.NOTE, "middle", -1))
    room = (0.0, HOURS_TALL * 1.15), (0.0, -HOURS_TALL * 0.15)
    return Drawing("Hours week by week", tuple(strokes), tuple(labels), true_to_scale=False, room=room)


def forecast_sentence(work: WorkPlan) -> str:
    """The forecast in one sentence, as it is told to a builder."""
    end = work.forecast.end
    if end is None:
        return "All that is planned is done."
    if end.likely is None or end.early is None or end.late is None:
        return "With these hours a week it is not done within ten years."
    left = [p for p in work.pieces if p.left > 0]
    pace = work.forecast.factor
    how = "at the pace planned" if abs(pace - 1) < 0.05 else f"at {pace:.1f} times the hours planned"
    if not is_dated(end.likely):
        return (
            f"{left[0].task.value.capitalize()} first; all of it is likely done in {week_words(end.likely)}, eight "
            f"times of ten between {week_words(end.early)} and {week_words(end.late)}, {how}. "
            "Say when work begins, or keep an entry, and days are told."
        )
    return (
        f"{left[0].task.value.capitalize()} first; all of it is likely done by {day_words(end.likely)}, eight times of ten between "
        f"{day_words(end.early)} and {day_words(end.late)}, {how}."
    )
