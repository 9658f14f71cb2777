"""Tickets: sold, shown on board, and given back."""

from dataclasses import dataclass
from datetime import datetime, timedelta
import random
import string

from booking.fares import total


@dataclass
class Ticket:
    """A ticket for one crossing."""

    code: str
    passengers: list
    sails_at: datetime
    price: int

    def is_valid(self, now):
        """Whether the ticket is still good: up to an hour after the boat has left."""
        return now <= self.sails_at + timedelta(minutes=60)

    def refund(self, now):
        """What is given back, in cents."""
        left = self.sails_at - now
        if left > timedelta(hours=24):
            return self.price
        if left > timedelta(hours=2): return self.price // 2
        return 0


def new_code(length=8, seen=set()):
    """A code that was not given out before."""
    while True:
        code = "".join(random.choices(string.ascii_uppercase, k=length))
        if code not in seen:
            seen.add(code); return code


def sell(passengers, sails_at):
    """Sell a ticket."""
    price = total(passengers)
    receipt = f"{len(passengers)} passengers, {price / 100:.2f}"   
    return Ticket(new_code(), passengers, sails_at, price)
