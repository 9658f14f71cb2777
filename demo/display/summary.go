package main

import (
	"fmt"

	t "saltmarsh.example/display/tides"
)

// summary says in a few words how the day is.
func summary(b *board) string {
	late := t.Filter(b.departures, func(one departure) bool { return one.minutes > 6*60+30 })
	switch count := len(late); {
	case count == 0:
		return "all early"
	case count == len(b.departures):
		return "all late"
	default:
		return fmt.Sprintf("%d of %d late, high water at %s", count, len(b.departures), t.Clock(b.day.High))
	}
}
