// Package packet reads what gauges send.
package packet

import (
	"fmt"
	"strconv"
	"strings"
)

// A Reading is one level at one station.
type Reading struct {
	Station     string
	Centimetres int
}

// Parse takes the station's name and its level, divided by the last blank.
func Parse(text string) (Reading, error) {
	cut := strings.LastIndexByte(text, ' ')
	level, err := strconv.Atoi(text[cut+1:])
	if cut < 0 || err != nil {
		return Reading{}, fmt.Errorf("no reading: %q", text)
	}
	return Reading{text[:cut], level}, nil
}
