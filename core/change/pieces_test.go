package change_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/change"
	"chromaqua/core/joint"
	"chromaqua/core/length"
	"chromaqua/core/nest"
	"chromaqua/core/shelf"
	"chromaqua/core/technique"
)

// Changes of pieces, layers, holds and zones do what they say, and say what they did.
func TestChangesOfPiecesAndLayers(t *testing.T) {
	tag := change.AddPiece{Kind: card.Tag}
	piece := func(c *card.Card) *card.Piece { return &c.Pieces[0] }
	each(t, []told{
		{[]change.Change{tag}, "added a tag", func(c *card.Card) bool { return piece(c).Kind == card.Tag && piece(c).Place.On == card.ThePanel }},
		{[]change.Change{tag, change.CopyPiece{Piece: "p1"}}, "copied the tag", func(c *card.Card) bool { return len(c.Pieces) == 2 && c.Pieces[1].Name == "tag 2" }},
		{[]change.Change{change.CopyPiece{Piece: "panel"}}, "copied the panel", func(c *card.Card) bool { return len(piece(c).Areas) == 2 && len(piece(c).Areas[0].Cells) == 1 }},
		{[]change.Change{tag, change.CopyPiece{Piece: "p1"}, change.MovePiece{Piece: "p2", Way: "earlier"}}, "moved the tag 2 in the order of pieces", func(c *card.Card) bool { return c.Pieces[0].ID == "p2" }},
		{[]change.Change{tag, change.RemovePiece{Piece: "p1"}}, "took the tag away", func(c *card.Card) bool { return len(c.Pieces) == 0 }},
		{[]change.Change{tag, change.Piece{Piece: "p1", Name: "Shell", Count: "3", W: "40", H: "", Wrong: true, Sheet: " scraps ", Paper: &change.Material{ID: "kraft"}}}, "changed the Shell", func(c *card.Card) bool {
			p := piece(c)
			return p.Name == "Shell" && p.Count == 3 && p.Size == length.Size{W: 40 * mm} && p.Wrong && p.Sheet == "scraps" && p.Paper == "kraft"
		}},
		{[]change.Change{tag, change.Piece{Piece: "p1", Name: "Shell", Count: "1"}}, "changed the Shell", func(c *card.Card) bool { return piece(c).Count == 0 }},
		{[]change.Change{tag, change.PieceDie{Piece: "p1", Set: &card.DieSet{Name: "tags", Edge: card.Plain, Sizes: []length.Size{{W: 30 * mm, H: 50 * mm}}}}}, "cuts the tag with a die of tags", func(c *card.Card) bool { return c.SizeOf(piece(c)).W == 30*mm }},
		{[]change.Change{tag, change.PieceDie{Piece: "p1"}}, "cuts the tag plainly", func(c *card.Card) bool { return piece(c).Die == nil }},
		{[]change.Change{change.CopyPiece{Piece: "panel"}, change.CutAlong{Piece: "p1", Image: "i2", Margin: "2", Darken: true, Partial: true}}, "cuts the second panel along its line", func(c *card.Card) bool {
			return *piece(c).Outline == card.Outline{Image: "i2", Margin: 2 * mm, Darken: true, Partial: true}
		}},
		{[]change.Change{change.CopyPiece{Piece: "panel"}, change.CutAlong{Piece: "p1", Image: "i2"}, change.CutAlong{Piece: "p1"}}, "cuts the second panel straight", func(c *card.Card) bool { return piece(c).Outline == nil }},
		{[]change.Change{tag, change.PlacePiece{Piece: "p1", On: "back", X: "3", Y: "-4", Turn: "5", By: joint.Pocket}}, "placed the tag", func(c *card.Card) bool {
			return assert.ObjectsAreEqual(card.Place{On: "back", At: card.At{X: 3 * mm, Y: -4 * mm, Turn: 5}, By: joint.Pocket}, *piece(c).Place)
		}},
		{[]change.Change{tag, change.Held{Part: "p1", By: joint.Foam, High: "3"}, change.PlacePiece{Piece: "p1", On: "panel", X: "5"}}, "placed the tag", func(c *card.Card) bool {
			return piece(c).Place.High == 3*mm && piece(c).Place.X == 5*mm
		}},
		{[]change.Change{tag, change.Held{Part: "p1", By: joint.Foam, High: "1.5"}}, "holds the tag by foam", func(c *card.Card) bool { return piece(c).Place.High == 0 }},
		{[]change.Change{change.Held{Part: "layer-0", By: joint.Film}}, "holds the mat by double-sided film", func(c *card.Card) bool { return c.Layers[0].By == joint.Film }},
		{[]change.Change{change.Held{Part: "layer-0", By: joint.Film}, change.Held{Part: "layer-0"}}, "holds the mat as is best for it", func(c *card.Card) bool { return c.Layers[0].By == joint.Usual }},
		{[]change.Change{tag, change.MovePiecePart{Piece: "p1", X: "3", Turn: "8"}}, "moved the tag", func(c *card.Card) bool { return piece(c).Place.At == card.At{X: 3 * mm, Turn: 8} }},
		{[]change.Change{tag, change.MovePiecePart{Piece: "p1", X: "3", Y: "4"}, change.AlignPart{Piece: "p1", To: change.DownIt}}, "put the tag in line: middle down", func(c *card.Card) bool { return piece(c).Place.At == card.At{X: 3 * mm} }},
		{[]change.Change{tag, change.AlignPart{Piece: "p1", To: change.Leftmost, Margin: "2"}}, "put the tag in line: left", func(c *card.Card) bool {
			return c.SizeOf(piece(c)).W/2-c.PanelSize().W/2+2*mm == piece(c).Place.X
		}},
		{[]change.Change{tag, change.AlignPart{Piece: "p1", To: change.Lowest}}, "put the tag in line: bottom", func(c *card.Card) bool {
			return (c.PanelSize().H-c.SizeOf(piece(c)).H)/2 == piece(c).Place.Y
		}},
		{[]change.Change{tag, change.Piece{Piece: "p1", Name: "Lamp", Count: "2", W: "20", H: "20"}, change.AlignPart{Piece: "p1", To: change.Spread}}, "spread 2 × Lamp evenly", func(c *card.Card) bool {
			gap := (c.PanelSize().W - 40*mm) / 3
			return piece(c).Place.X == -c.PanelSize().W/2+gap+10*mm && piece(c).Place.More[0].X-piece(c).Place.X == gap+20*mm
		}},
		{[]change.Change{change.CopyPiece{Piece: "panel"}, change.MovePiecePart{Piece: "p1", X: "9"}, change.AlignPart{Piece: "p1", To: change.OnTwin}}, "laid the second panel over its printed twin", func(c *card.Card) bool { return piece(c).Place.At == card.At{} }},
		{[]change.Change{tag, change.GlueLayers{Piece: "p1", Layers: 2}}, "glues 2 more under the tag", func(c *card.Card) bool { return piece(c).Layers == 2 }},
		{[]change.Change{tag, change.GlueLayers{Piece: "p1", Layers: 2}, change.GlueLayers{Piece: "p1"}}, "cuts the tag once", func(c *card.Card) bool { return piece(c).Layers == 0 }},
		{[]change.Change{tag, change.PlacePiece{Piece: "p1"}}, "the tag lies nowhere yet", func(c *card.Card) bool { return piece(c).Place == nil }},

		{[]change.Change{change.Medium{Image: "i1", Ink: &change.Material{ID: "dye"}, Look: shelf.Pulled, Times: "2", Pads: "blend permanent", Watered: true, Bare: card.Taped}}, "changed what Grid is put on with", func(c *card.Card) bool {
			m := c.Images[0].Medium
			return m.Ink == "dye" && m.Look == shelf.Pulled && m.Times == 2 && len(m.Pads) == 2 && m.Watered && m.Bare == card.Taped
		}},
		{[]change.Change{change.Medium{Image: "i1", Times: "2"}, change.Medium{Image: "i1", Ink: &change.Material{}}}, "changed what Grid is put on with", func(c *card.Card) bool { return c.Images[0].Medium == nil }},
		{[]change.Change{change.LieOver{Above: "i1", Below: "a1", On: true}}, "put Grid over Left", func(c *card.Card) bool { return c.LiesOver("i1", "a1") }},
		{[]change.Change{change.LieOver{Above: "i1", Below: "a1", On: true}, change.LieOver{Above: "i1", Below: "a1"}}, "lets Grid lie as usual", func(c *card.Card) bool { return len(c.Over) == 0 }},
		{[]change.Change{change.Raise{Deed: "i1", Way: change.Later}}, "laid Grid one higher", func(c *card.Card) bool { return c.LiesOver("i1", "a1/1") }},
		{[]change.Change{change.Raise{Deed: "a2/1", Way: "earlier"}}, "laid Right one lower", func(c *card.Card) bool { return c.LiesOver("a1/1", "a2/1") }},
		{[]change.Change{change.Raise{Deed: "i1", Way: change.Later}, change.AsUsual{}}, "lets all lie as usual", func(c *card.Card) bool { return len(c.Over) == 0 }},
		{[]change.Change{change.LieOver{Above: "i1", Below: "a1/1", On: true}, change.RemoveWash{Area: "a1", Wash: 0}}, "removed a wash of Left", func(c *card.Card) bool { return len(c.Over) == 0 }},
		{[]change.Change{change.AddWash{Area: "a1"}, change.LieOver{Above: "i1", Below: "a1/2", On: true}, change.RemoveWash{Area: "a1", Wash: 0}}, "removed a wash of Left", func(c *card.Card) bool { return c.LiesOver("i1", "a1/1") }},
		{[]change.Change{change.AddWash{Area: "a1"}, change.LieOver{Above: "i1", Below: "a1/2", On: true}, change.MoveWash{Area: "a1", Wash: 1, Way: "earlier"}}, "changed the order of washes on Left", func(c *card.Card) bool { return c.LiesOver("i1", "a1/1") }},
		{[]change.Change{change.AddWash{Area: "a2"}, change.LieOver{Above: "i1", Below: "a2/2", On: true}, change.SameWashes{Area: "a2", As: "a1"}}, "painted Right as Left", func(c *card.Card) bool { return len(c.Over) == 0 }},
		{[]change.Change{change.AddAct{Kind: card.Flatten}}, "added: flatten it under weight", func(c *card.Card) bool { return c.Acts[0] == card.Handling{ID: "x1", Kind: card.Flatten} }},
		{[]change.Change{change.PutWords{Text: " sea\r\nyou ", By: card.TextStamped, Height: "6"}}, "put “sea you” on", func(c *card.Card) bool {
			x := c.Acts[0].Text
			return x.Text == "sea\nyou" && x.Height == 6*mm && x.X == c.PanelSize().W/2 && x.Y == c.PanelSize().H/2
		}},
		{[]change.Change{change.PutWords{Text: "a", By: card.TextStamped, Height: "6"}, change.PutWords{Act: "x1", Text: "b", By: card.TextPowder, Ink: "pigment-slow", Height: "8", Times: 2, X: "20", Y: "30", Turn: 90}}, "changed “b”", func(c *card.Card) bool {
			return len(c.Acts) == 1 && *c.Acts[0].Text == card.Text{Text: "b", By: card.TextPowder, Ink: "pigment-slow", Height: 8 * mm, Times: 2, X: 20 * mm, Y: 30 * mm, Turn: 90}
		}},
		{[]change.Change{change.NewZone{Shape: card.Along, Points: "5 x 5; 5 x 20 | 15 x 5; 15 x 20", Width: "1", Pen: technique.MarkerLine, Name: "Posts"}}, "drew a zone", func(c *card.Card) bool {
			z, a := c.Zones[0], c.Areas[len(c.Areas)-1]
			return len(z.Breaks) == 1 && z.Breaks[0] == 2 && z.Width == mm && a.Name == "Posts" && a.Washes[0].Technique == technique.MarkerLine && a.Washes[0].Mix[0].CI == "PBk7"
		}},
		{[]change.Change{change.NewZone{Shape: card.Along, Points: "5 x 5; 5 x 20", Width: "2", Pen: technique.LinePull}}, "drew a zone", func(c *card.Card) bool {
			w := c.Areas[len(c.Areas)-1].Washes[0]
			return w.Technique == technique.LinePull && len(w.Mix) == 0
		}},
		{[]change.Change{change.NewZone{Shape: card.DotsAt, Points: "5 x 5; 6 x 6; 7 x 7", Width: "1", Pen: technique.WhitePen}}, "drew a zone", func(c *card.Card) bool {
			return len(c.Zones[0].Points) == 3 && c.Areas[len(c.Areas)-1].Washes[0].Mix[0].CI == "PW6"
		}},
		{[]change.Change{change.Embellish{Kind: joint.Gem, Count: 3, Name: " pearls ", Height: "2"}}, "set 3 × gem, pearls", func(c *card.Card) bool {
			e := c.Acts[0].Item
			return e.Stands() == 2*mm && e.Name == "pearls" && e.X == c.PanelSize().W/2
		}},
		{[]change.Change{change.AddAct{Kind: card.Trim}, change.RemoveAct{Act: "x1"}}, "took away: to trim it to its size", func(c *card.Card) bool { return len(c.Acts) == 0 }},
		{[]change.Change{change.Hold{How: card.TapedDown, From: "a1", Sides: "left top", Tape: card.PaperTape, Width: "12"}}, "holds it taped to a board", func(c *card.Card) bool {
			h := c.Hold[0]
			return h.From == "" && len(h.Sides) == 2 && h.Sides[1] == nest.Top && h.Tape == card.PaperTape && h.Width == 12*mm
		}},
		{[]change.Change{change.Hold{How: card.OnBlock}, change.Hold{N: 1, How: card.OffBoard, From: "a2/1"}}, "holds it off the board, its tape left on", func(c *card.Card) bool { return c.Hold[1].From == "a2/1" }},
		{[]change.Change{change.Hold{How: card.OnBlock}, change.Hold{N: 1, How: card.OffBoard, From: "a2/1"}, change.LetGo{N: 1}}, "took a way of holding it away", func(c *card.Card) bool { return len(c.Hold) == 1 }},
		{[]change.Change{change.Hold{How: card.OnBlock}, change.Hold{N: 1, How: card.OffBoard, From: "a2/1"}, change.LetGo{}}, "holds it as usual", func(c *card.Card) bool { return len(c.Hold) == 0 }},

		{[]change.Change{change.NewZone{Shape: card.Below, Points: "0 x 50; 90 x 60", Edge: card.SoftEdge, Water: true, Round: true, Name: "Sand"}}, "drew a zone", func(c *card.Card) bool {
			z, a := c.Zones[0], c.Areas[2]
			return a.Name == "Sand" && a.Lies && a.Zones[0] == z.ID && z.Edge == card.SoftEdge && z.Water && z.Round && len(z.Points) == 2
		}},
		{[]change.Change{change.NewZone{Shape: card.All}}, "drew a zone", func(c *card.Card) bool { return c.Areas[2].Name == "Zone 1" && len(c.Zones[0].Points) == 0 }},
		{[]change.Change{change.NewZone{Shape: card.All}, change.NewZone{Shape: card.Within, Points: "0 x 0; 9 x 0; 9 x 9", To: "a3"}}, "added a zone to Zone 1", func(c *card.Card) bool { return len(c.Areas) == 3 && len(c.Areas[2].Zones) == 2 }},
		{[]change.Change{change.NewZone{Shape: card.Within, Points: "30 x 30; 50 x 30; 50 x 50", On: "i1"}}, "drew a zone", func(c *card.Card) bool { return c.Zones[0].On == "i1" && c.Zones[0].Points[0].U < 0.5 }},
		{[]change.Change{change.NewZoneIn{NewZone: change.NewZone{Shape: card.All, Name: "Shade"}, Cells: "2"}}, "drew a zone", func(c *card.Card) bool { return len(c.Areas[2].Cells) == 1 && c.Areas[2].Lies }},
		{[]change.Change{change.NewZone{Shape: card.All}, change.ZoneEnds{Area: "a3", Edge: card.RunningEdge, Water: true}}, "Zone 1: its edge is running", func(c *card.Card) bool { return c.Zones[0].Edge == card.RunningEdge && c.Zones[0].Water }},
		{[]change.Change{change.NewZone{Shape: card.All}, change.RemoveZone{Zone: "z1"}}, "took a zone away", func(c *card.Card) bool { return len(c.Zones) == 0 && len(c.Areas) == 2 }},
		{[]change.Change{change.Lie{Area: "a1", On: true}}, "Left lies over other areas", func(c *card.Card) bool { return c.Areas[0].Lies }},
		{[]change.Change{change.Lie{Area: "a1", On: true}, change.Lie{Area: "a1"}}, "Left has cells of its own", func(c *card.Card) bool { return !c.Areas[0].Lies }},
		{[]change.Change{change.Lie{Area: "a1", On: true}, change.Gather{Area: "a1", Cells: "2"}}, "gave 1 cell to Left", func(c *card.Card) bool { return len(c.Areas[0].Cells) == 2 && len(c.Areas[1].Cells) == 1 }},
	})
}

// What cannot be done to pieces, layers and zones says why.
func TestChangesOfPiecesThatCannotBe(t *testing.T) {
	for why, ch := range map[string]change.Change{
		"that piece is gone":          change.RemovePiece{Piece: "p1"},
		"height of the words":         change.PutWords{Text: "a", By: card.TextStamped, Height: "tall"},
		"from the left":               change.PutWords{Text: "a", By: card.TextStamped, Height: "6", X: "left"},
		"taken away or undone":        change.PutWords{Act: "x7", Text: "a", By: card.TextStamped, Height: "6"},
		"nothing to draw with":        change.NewZone{Shape: card.DotsAt, Points: "5 x 5", Width: "1", Pen: "crayon"},
		"how wide it is":              change.NewZone{Shape: card.Along, Points: "5 x 5; 6 x 6"},
		"0.2 mm to":                   change.NewZone{Shape: card.Along, Points: "5 x 5; 6 x 6", Width: "0.05"},
		"fewer than two points":       change.NewZone{Shape: card.Along, Points: "5 x 5; 6 x 6 | 7 x 7", Width: "1"},
		"501 dots":                    change.NewZone{Shape: card.DotsAt, Points: change.PointList(strings.TrimSuffix(strings.Repeat("5 x 5;", 501), ";")), Width: "1"},
		"more than a hand draws":      change.NewZone{Shape: card.Along, Points: change.PointList(strings.TrimSuffix(strings.Repeat("5 x 5;6 x 6;", 25_000), ";")), Width: "1"},
		"no embellishment":            change.Embellish{Kind: "anchor"},
		"how high it stands":          change.Embellish{Kind: joint.Gem, Height: "very"},
		"that piece is":               change.MovePiece{Piece: "p1"},
		"piece is gone: it":           change.Piece{Piece: "p1", Name: "x"},
		"piece is gone: it was":       change.CutAlong{Piece: "p1"},
		"piece is gone: it was r":     change.PlacePiece{Piece: "p1"},
		"piece is gone: it was re":    change.PieceDie{Piece: "p1"},
		"no kind of piece":            change.AddPiece{Kind: "boat"},
		"that image is not":           change.Medium{Image: "i9"},
		"no number of impressions":    change.Medium{Image: "i1", Times: "often"},
		"neither image, area nor act": change.LieOver{Above: "i9", Below: "a1", On: true},
		"not on the piece":            change.Raise{Deed: "i9"},
		"the last already":            change.Raise{Deed: "i1"},
		"no act":                      change.AddAct{Kind: "sing"},
		"no way of holding":           change.Hold{How: "nails"},
		"way of holding is gone":      change.Hold{N: 2, How: card.OnBlock},
		"gone already":                change.LetGo{},
		"no side to tape":             change.Hold{How: card.TapedDown, Sides: "up"},
		"tape:":                       change.Hold{How: card.TapedDown, Width: "wide"},
		"point 1":                     change.NewZone{Shape: card.Within, Points: "x"},
		"draw it again":               change.NewZone{Shape: card.Within, Points: "1 x 1; 2 x 2"},
		"is an area of cells":         change.NewZone{Shape: card.All, To: "a1"},
		"image is not on the panel":   change.NewZone{Shape: card.All, On: "i9"},
		"no cell is chosen":           change.NewZoneIn{NewZone: change.NewZone{Shape: card.All}},
		"there is no cell 77":         change.NewZoneIn{NewZone: change.NewZone{Shape: card.All}, Cells: "77"},
		"this area has no zone":       change.ZoneEnds{Area: "a1"},
		"that zone is gone":           change.RemoveZone{Zone: "z1"},
		"that area is gone":           change.Lie{Area: "a9", On: true},
	} {
		c, s := painted(t)
		_, _, err := change.Try(ch, c, s)
		assert.ErrorContains(t, err, why)
	}
	c, s := painted(t)
	c, _ = made(t, c, s, change.NewZone{Shape: card.All})
	_, _, err := change.Try(change.Lie{Area: "a3"}, c, s)
	assert.ErrorContains(t, err, "has zones")
	_, _, err = change.Try(change.Gather{Area: "a3", Cells: "2"}, c, s)
	assert.ErrorContains(t, err, "wherever its zone reaches")
	c, _ = made(t, c, s, change.AddPiece{Kind: card.Tag})
	for why, ch := range map[string]change.Change{
		"how many":        change.Piece{Piece: "p1", Name: "x", Count: "some"},
		"give 1 to 50":    change.Piece{Piece: "p1", Name: "x", Count: "0"},
		"width":           change.Piece{Piece: "p1", Name: "x", W: "wide"},
		"height":          change.Piece{Piece: "p1", Name: "x", H: "high"},
		"margin":          change.CutAlong{Piece: "p1", Image: "i1", Margin: "thin"},
		"to the right":    change.PlacePiece{Piece: "p1", On: "panel", X: "far"},
		"down":            change.PlacePiece{Piece: "p1", On: "panel", Y: "far"},
		"no angle":        change.PlacePiece{Piece: "p1", On: "panel", Turn: "steep"},
		"in the end on":   change.PlacePiece{Piece: "p1", On: "p1"},
		"does not have":   change.PlacePiece{Piece: "p1", On: "p5"},
		"which it does":   change.CutAlong{Piece: "p1", Image: "i1"},
		"one thing works": change.PlacePiece{Piece: "p1", On: "inside left"},
	} {
		_, _, err := change.Try(ch, c, s)
		if why == "one thing works" {
			require.NoError(t, err)
			continue
		}
		assert.ErrorContains(t, err, why)
	}
}
