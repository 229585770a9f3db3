package packet_test

import (
	"testing"

	"example.org/saltmarsh/gateway/packet"
)

func TestParse(t *testing.T) {
	if reading, err := packet.Parse("HERON SLUICE 388"); err != nil || reading.Centimetres != 388 {
		t.Fatal(reading, err)
	}
}
