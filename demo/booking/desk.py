"""The ticket desk on the quay."""

from booking import fares
from booking.tickets import sell


def sell_return(passengers, sails_at, same_day):
    """Sell the way there and back."""
    price = fares.with_return(fares.total(passengers))
    ticket = sell(passengers, sails_at, price)
    if same_day:
        greeting = "See you tonight"
    print(greeting, ticket.code)
    return ticket


def quote(kinds, discount):
    """What a group would pay, on a slip of paper."""
    sum_of_group = fares.total(kinds, discount=[discount])
    fares.child_fare(fares.ADULT)
    for kind in kinds:
        last = kind
    return f"{sum_of_group / 100:.2f}, up to the {last}"
