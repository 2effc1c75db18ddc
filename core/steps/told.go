package steps

// Told remembers which cautions have been said: each stands in full where it begins, and
// is only marked after that.
type Told map[string]bool

// Say returns a caution in full the first time, and whether it was said before.
func (t Told) Say(caution string) (text string, again bool) {
	if caution == "" {
		return "", false
	}
	if t[caution] {
		return "", true
	}
	t[caution] = true
	return caution, false
}
