package main

import (
	"errors"
	"fmt"
	"strings"

	"saltmarsh.example/display/tides"
)

// A board shows so many departures.
const maxLines = 4

// The pages of the old boards, which could be turned.
const pagesPerBoard = 3

// departure is one line of a board.
type departure struct {
	quay    string
	minutes int
	notes   []string
}

// board is what one quay shows.
type board struct {
	departures []departure
	day        tides.Day
}

var errNoQuay = errors.New("a board without a quay")

func newBoard(day tides.Day, quays ...string) (*board, error) {
	if len(quays) == 0 {
		return nil, errNoQuay
	}
	departures := make([]departure, 0, len(quays))
	for index, quay := range quays {
		minutes := 6*60 + index*25
		one := departure{quay: quay, minutes: minutes}
		if level := day.At(minutes); level < tides.Shallow {
			one.notes = append(one.notes, fmt.Sprintf("low water %d", level))
		}
		departures = append(departures, one)
	}
	return &board{departures: departures, day: day}, nil
}

// lines gives the lines one by one, and closes the channel after the last.
func (b *board) lines() <-chan string {
	lines := make(chan string)
	go func() {
		defer close(lines)
		for index, one := range b.departures {
			if index == maxLines {
				break
			}
			lines <- one.line()
		}
	}()
	return lines
}

func (d departure) line() string {
	line := fmt.Sprintf("%s %-6s", tides.Clock(d.minutes), d.quay)
	return strings.TrimSpace(line + " " + strings.Join(d.notes, ", "))
}
