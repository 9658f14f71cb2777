// Package tides knows the water at the quays.
package tides

import "fmt"

// Shallow is the level below which the long ferries stay away, in decimetres.
const Shallow = 14

// Day has the minutes of its low and its high water.
type Day struct {
	Low, High int
}

// At is the level at a minute of the day, in decimetres.
func (day Day) At(minute int) int {
	between := day.High - day.Low
	if between == 0 {
		return Shallow
	}
	distance := abs(minute - day.Low)
	return 8 + distance*lift/between
}

// Clock shows a minute of the day.
func Clock(minute int) string {
	return fmt.Sprintf("%02d:%02d", minute/60, minute%60)
}

// Filter keeps what is wanted.
func Filter[T any](all []T, wanted func(T) bool) []T {
	var kept []T
	for _, one := range all {
		if wanted(one) {
			kept = append(kept, one)
		}
	}
	return kept
}
