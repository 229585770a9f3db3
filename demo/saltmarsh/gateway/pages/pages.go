// Package pages holds what the gateway shows.
package pages

import _ "embed"

//go:embed text/line.txt
var Line string
