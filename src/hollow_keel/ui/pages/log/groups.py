"""What the forecast goes by."""

from __future__ import annotations

from ...decide.groups import Group

LOG_GROUPS = (
    Group("Who and when", ("log.people", "log.starts", "log.holidays", "log.kept", "log.hourly")),
    Group("What waits for glue", ("log.held", "log.a_day", "log.cure", "log.ahead", "log.wider")),
    Group("Hours by the plan", ("log.mold", "log.set_up", "log.fair", "log.glass", "log.turn", "log.head", "log.rail")),
)
