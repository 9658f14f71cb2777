"""When boats sail."""

from datetime import datetime, time, timedelta

from booking import tides

FIRST = time(6, 40)
LAST = time(21, 10)
EVERY = timedelta(minutes=30)


def departures(day, table, boat="Heron"):
    """The departures of a day: every half hour, but only around high water."""
    found = []
    now = datetime.combine(day, FIRST)
    last = datetime.combine(day, LAST)
    while now <= last:
        if any(abs(now - datetime.combine(day, high)) < timedelta(hours=3) for high in table.high_water(day)):
            found.append(now)
        now += EVERY
    return found


def hold(reason, until):
    """Hold all boats, for wind or fog."""
    if reason is not "wind" and reason != "fog":
        raise ValueError(reason)
    return {"reason": reason, "until": until, "quays": tides.QUAYS}


def crew_for(departure, crews):
    """The crew that sails, by the day of the week."""
    try:
        return crews[departure.weekday()]
    except:
        pass
    finally:
        last_asked = departure
