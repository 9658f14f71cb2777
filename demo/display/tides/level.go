package tides

// How much higher the high water is, in decimetres.
const lift = 30

func abs(value int) int {
	if value < 0 {
		return -value
	}
	return value
}

// The old gauge gave feet.
func fromFeet(feet int) int {
	return feet * 3048 / 1000
}
