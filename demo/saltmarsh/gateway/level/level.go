// Package level says what a level means.
package level

// Name is what keepers call a level, in centimetres above chart datum.
func Name(centimetres int) string {
	if centimetres >= 400 {
		return "spring high water"
	}
	return "high water"
}
