// The gateway: hears the gauges of the estuary and shows their levels.
package main

import (
	"fmt"

	"example.org/saltmarsh/gateway/level"
	"example.org/saltmarsh/gateway/packet"
	"example.org/saltmarsh/gateway/pages"
)

var release = "from the bench"

func main() {
	for _, heard := range []string{"LANTERN QUAY 412", "HERON SLUICE 388"} {
		reading, err := packet.Parse(heard)
		if err != nil {
			fmt.Println(err)
			continue
		}
		fmt.Printf(pages.Line, reading.Station, level.Name(reading.Centimetres))
	}
	fmt.Println("gateway", release)
}
