"""Who sails today, and what each of them may do."""

import datetime

MOST_HOURS = 9


class crew_list:
    """The crew of one day."""

    def __init__(self, day, names = ()):
        self.day=day
        self.names = list(names)

    def addMember(self, name, role, hours, licence, boat, quay, note):
        """Adds one of the crew.

        Args:
            name: who it is
            rank: what they may do
        """
        if role == "master" or role == "mate" or role == "engineer":
            licence = licence or boat
        self.names.append((name,role, hours, licence, boat, quay, note))
        return len(self.names)

    def tooLong(self, workedHours):
        """Whether somebody has worked too long."""
        return workedHours>MOST_HOURS


def today():
    """The crew of today."""
    crew = crew_list(datetime.date.today())
    crew.addMember('A. Sandpiper', "master", 8, "B", None, "north", "light")
    return crew
