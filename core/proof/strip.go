package proof

// The strip on which an ink is tested: marks at its corners by which a scan is
// found and squared, three lines and a solid patch right across. Its right part
// is brushed with water. Places are mm from its top left corner.
const (
	StripW, StripH = 124.0, 76.0
	MarkSide       = 6.0  // of the marks, black squares
	MarkInset      = 7.0  // of their middles from the edges
	MarkHole       = 2.4  // side of the white square in all but the first, by which the strip is turned upright
	InkLeft        = 18.0 // lines and patch run from here
	InkRight       = 106.0
	WetFrom        = 62.0 // what lies to the right is brushed
)

// StripLine is a line of the strip: its middle and its thickness.
type StripLine struct{ Y, Thick float64 }

// StripLines lists the lines; they are so far apart that a bleed of 3 mm stays
// clear of the next.
func StripLines() []StripLine { return []StripLine{{16, 0.3}, {26, 0.5}, {36, 1}} }

// The solid patch, and the bare paper below it.
const (
	PatchTop, PatchBottom = 44.0, 52.0
	BareTop, BareBottom   = 60.0, 65.0
)

// Marks returns the middles of the four marks, clockwise from the first, which
// is the one without a hole.
func Marks() [4]Point {
	return [4]Point{
		{X: MarkInset, Y: MarkInset}, {X: StripW - MarkInset, Y: MarkInset},
		{X: StripW - MarkInset, Y: StripH - MarkInset}, {X: MarkInset, Y: StripH - MarkInset},
	}
}
