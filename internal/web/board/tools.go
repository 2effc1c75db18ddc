package board

// Tool is something the pointer does on the board.
type Tool struct {
	ID, Name, Key string
	Does          string // told when it is taken up, "" for nothing
}

// Choosing are the tools that choose cells, and places that no line goes round.
func Choosing() []Tool {
	return []Tool{
		{"choose", "Box", "x", "Tap cells to choose them, tap again to let go; a drag takes all in its box."},
		{"lasso", "Lasso", "o", "Draw round cells to choose them."}, {"zone", "Zone", "z", "Draw round a place that no line goes round."},
	}
}
