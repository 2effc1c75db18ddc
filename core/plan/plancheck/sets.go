package plancheck

func set(ids []string) map[string]bool {
	out := make(map[string]bool, len(ids))
	for _, id := range ids {
		out[id] = true
	}
	return out
}

func meet(a, b map[string]bool) bool {
	for id := range a {
		if b[id] {
			return true
		}
	}
	return false
}

func minus(a, b map[string]bool) map[string]bool {
	out := map[string]bool{}
	for id := range a {
		if !b[id] {
			out[id] = true
		}
	}
	return out
}

// touches reports whether some cell of a touches one of b across a flat line.
func (c *checker) touches(a, b map[string]bool) bool {
	for id := range a {
		for other := range c.touch[id] {
			if b[other] {
				return true
			}
		}
	}
	return false
}
