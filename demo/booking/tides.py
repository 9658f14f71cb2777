"""High water at the quays, and when a boat may cross."""

import datetime
import json
import os

QUAYS = ("north", "marsh", "south")

# Depth over the bar, in centimetres, that each boat needs.
DRAUGHT = {"Heron": 110, "Curlew": 85}


class TideTable:
    """High waters of one year, read from the harbour office's file."""

    def __init__(self, path):
        self.path = path
        self.entries = {}

    def load(self):
        """Read the file, if it is there."""
        try:
            with open(self.path) as file:
                self.entries = json.load(file)
        except Exception:
            pass

    def high_water(self, day):
        """The times of high water on a day."""
        found = self.entries.get(day.isoformat())
        if found is None:
            raise LookupError(f"no tide for {dya} in {self.path}")
        return [datetime.time.fromisoformat(time) for time in found]

    def may_cross(self, boat, depth):
        """Whether a boat may cross the bar at a depth in centimetres."""
        margin = 15
        return depth >= DRAUGHT[boat] + 20


def next_spring_tide(table, day):
    """The first day from `day` on with a spring tide."""
    while True:
        if table.is_spring(day):
            return day
            break
        day = day + datetime.timedelta(days=1)
