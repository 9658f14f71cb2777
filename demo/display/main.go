// The board at each quay: the next departures, with the tide.
package main

import (
	"fmt"
	"os"

	"saltmarsh.example/display/tides"
)

func main() {
	day := tides.Day{Low: 5*60 + 40, High: 11*60 + 55}
	board, err := newBoard(day, "north", "south", "west")
	if err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
	for line := range board.lines() {
		fmt.Println(line)
	}
	fmt.Println(summary(board))
}
