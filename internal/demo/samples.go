package demo

import (
	"time"

	"chromaqua/core/card"
	"chromaqua/core/fold"
	"chromaqua/core/length"
	"chromaqua/core/paper"
	"chromaqua/core/pigment"
	"chromaqua/core/proof"
	"chromaqua/core/shelf"
	"chromaqua/core/technique"
	"chromaqua/internal/store"
)

const (
	flat     = technique.Flat
	pullOut  = technique.PullOut
	wetInWet = technique.WetOnWet
	glaze    = technique.Glaze
	splatter = technique.Splatter

	weakTea = pigment.WeakTea
	tea     = pigment.Tea
	milk    = pigment.Milk
	cream   = pigment.Cream
)

// onHand is the paper in the station's drawer.
var onHand = []paper.Item{
	{Kind: paper.Pad, Paper: "cotton-cp", Size: inches(9, 12), Grain: paper.AlongHeight, Weight: 300, Qty: 12, Price: 140},
	{Kind: paper.Sheet, Paper: "cotton-cp", Size: inches(11, 15), Grain: paper.AlongHeight, Weight: 300, Qty: 4, Price: 210},
	{Kind: paper.Offcut, Paper: "cotton-cp", Size: inches(4, 9), Weight: 300, Qty: 1},
	{Kind: paper.Offcut, Paper: "cotton-cp", Size: inches(5, 6), Weight: 300, Qty: 2},
	{Kind: paper.Sheet, Paper: shelf.Cardstock, Size: inches(12, 12), Weight: 270, Qty: 25, Price: 55},
	{Kind: paper.Sheet, Paper: shelf.Cardstock, Size: length.Size{W: 17 * length.Inch / 2, H: 11 * length.Inch}, Grain: paper.AlongHeight, Weight: 270, Qty: 40, Price: 30},
	{Kind: paper.Offcut, Paper: shelf.Cardstock, Size: inches(5, 12), Weight: 270, Qty: 1},
	{Kind: paper.Sheet, Paper: "card-colour", Colour: "deep teal", Size: inches(12, 12), Weight: 220, Qty: 6, Price: 70},
}

// madeWith is what the station makes its drawings with; others are line stamps.
var madeWith = map[string]store.Facts{
	"hermit-crab":   {Kind: shelf.LineImage, Mount: shelf.ClingRubber, Notes: "inks well; the feelers want a second impression"},
	"sea-star":      {Kind: shelf.LineImage, Mount: shelf.Photopolymer},
	"kelp-pattern":  {Kind: shelf.ResistImage, Mount: shelf.Photopolymer, Notes: "for clear embossing over a pale wash"},
	"kelp":          {Kind: shelf.LineImage, Mount: shelf.Photopolymer, Notes: "thin: leave the foam in the positioner"},
	"storm-lantern": {Kind: shelf.LineImage, Mount: shelf.Wood},
	"lighthouse":    {Kind: shelf.PrintImage},
}

// ownMaterials are what the station has of its own.
var ownMaterials = []shelf.Own{
	{Name: "dove bottle", What: shelf.OwnInk, Like: "permanent", Colour: "dove grey", AirDry: 40 * time.Minute, Note: "soft lines for faces of shells"},
	{Name: "field pen", What: shelf.OwnInk, Like: "pen", Note: "closes gaps; 0.5 mm"},
	{Name: "tin of fine clear", What: shelf.OwnPowder, Like: shelf.Superfine, Note: "nearly empty"},
	{Name: "sky flat", What: shelf.OwnBrush, Like: shelf.FlatBrush, Belly: 16 * length.Millimetre, Note: "the old one, with the cracked handle"},
	{Name: "blue jar", What: shelf.OwnMask, Like: "fluid", AirDry: 20 * time.Minute, Note: "thin it with a drop of water", Tried: []shelf.Tried{{Paper: "cotton-cp", Clean: 6}, {Paper: "pulp-cp", Clean: 1, Tore: 3}}},
	{Name: "station blue", What: shelf.OwnPaint, Like: "PB29"}, {Name: "buoy orange", What: shelf.OwnPaint, Like: "PO62"},
	{Name: "sea rose", What: shelf.OwnPaint, Like: "PV19"}, {Name: "lamp yellow", What: shelf.OwnPaint, Like: "PY150"},
	{Name: "driftwood", What: shelf.OwnPaint, Like: "PBr7"}, {Name: "deep water", What: shelf.OwnPaint, Like: "PG7", Form: shelf.Tube},
	{Name: "storm sepia", What: shelf.OwnPaint, Like: "2 PBr7 + PBk7", Form: shelf.Pan}, {Name: "surf white", What: shelf.OwnPaint, Like: "PW6", Form: shelf.Gouache, Note: "for stars and foam"},
	{Name: "rain pad", What: shelf.OwnPaper, Like: "pulp-cp", Thickness: 45 * length.Millimetre / 100, Note: "for trying out"},
}

// inkTests are strips for the practice scanner to scan.
var inkTests = []struct {
	habit  string
	record proof.Record
}{
	{"runs", proof.Record{Of: proof.Of{Ink: "dye", Paper: "cotton-cp"}, Waited: 10 * time.Minute}},
	{"softens", proof.Record{Of: proof.Of{Ink: "blend", Paper: "cotton-cp"}, Waited: 20 * time.Minute, Heat: true}},
	{"holds", proof.Record{Of: proof.Of{Ink: "pigment-quick", Paper: "cotton-cp"}, Waited: 15 * time.Minute}},
}

// dies are the die sets in the drawer.
var dies = []card.DieSet{
	{Name: "scalloped rectangles", Edge: card.Scallop, Sizes: []length.Size{eighths(17, 27), eighths(22, 32), eighths(27, 37), eighths(31, 41)}},
	{Name: "deckled squares", Edge: card.Deckle, Sizes: []length.Size{eighths(21, 21), eighths(31, 31), eighths(41, 41)}},
}

func eighths(w, h length.Length) length.Size {
	return length.Size{W: w * length.Inch / 8, H: h * length.Inch / 8}
}

func inches(w, h length.Length) length.Size {
	return length.Size{W: w * length.Inch, H: h * length.Inch}
}

// first is the card that a newcomer paints.
var first = sample{name: "My first card", set: format("a2", fold.Left), work: work{drawing: "limpets"}}

// samples are the sample cards, the one shown first last.
var samples = []sample{
	{
		name: "Lighthouse, still to paint",
		set:  all(format("a7", fold.Left), notes("For the volunteers of the north shore. The images are placed, the colours are open.")),
		work: work{
			drawing: "lighthouse",
			behind: []behind{
				{"wave-border", 124, -5, 132, 0, 0},
				{"kelp", 40, 80, 84, 12, 0},
				{"kelp", 40, -9, 76, -14, 1},
			},
		},
	},
	{
		name: "Sea-star for the counters",
		set:  all(format("sq5.5", fold.Top), deckledMat, sixCards, notes("Thank-you cards for counting in the rain: six at once.")),
		work: work{
			drawing: "sea-star",
			areas: []area{
				{"Water", [][2]float64{{2, 2}}, []card.Wash{
					wash(wetInWet, weakTea, of(2, "PB15:3"), of(1, "PG7"))}},
				{"Body", [][2]float64{{38.5, 52.9}}, []card.Wash{
					wash(flat, tea, of(2, "PO62"), of(1, "PV19")), wash(glaze, tea, of(1, "PBr7"))}},
				{"Arm plates", [][2]float64{{47, 50.7}, {51.1, 41.4}, {30.6, 35.9}, {31.5, 49.1}, {39.4, 30.9}}, []card.Wash{
					wash(pullOut, tea, of(3, "PY150"), of(1, "PO62"))}},
				{"Middle", [][2]float64{{34.2, 39}}, []card.Wash{
					wash(flat, milk, of(2, "PO62"), of(1, "PV19"))}},
				{"Eye plate", [][2]float64{{40, 42}}, []card.Wash{
					wash(flat, weakTea, of(1, "PY150"))}},
				{"Spots", [][2]float64{
					{53.9, 39.1}, {41.4, 27.9}, {30.5, 52.5}, {27.1, 36.2}, {47.1, 54.3},
					{42.1, 22.8}, {22.4, 34.1}, {27, 56.3}, {49.6, 58.7}, {58.9, 38.1},
					{24, 59.9}, {42.4, 18.1}, {18, 32.3}, {52.1, 62.7}, {63.5, 36.9}}, []card.Wash{
					wash(flat, milk, of(1, "PV19"))}},
			},
		},
	},
	{
		name: "Storm lantern",
		set:  all(format("a2", fold.Left), heatDried, notes("Signal card for the first clear night in August.")),
		work: work{
			drawing: "storm-lantern",
			areas: []area{
				{"Night", [][2]float64{{1, 1}, {27.6, 11.6}}, []card.Wash{
					wash(wetInWet, tea, of(3, "PB29"), of(1, "PBk9")), wash(wetInWet, milk, of(1, "PV23"))}},
				{"Glow", [][2]float64{{20, 40.5}, {17.5, 51.7}, {38.6, 51.7}}, []card.Wash{
					wash(wetInWet, weakTea, of(1, "PY3")), wash(wetInWet, tea, of(1, "PY150"))}},
				{"Flame", [][2]float64{{28.3, 46}}, []card.Wash{wash(flat, tea, of(1, "PO62"))}},
				{"Heart of the flame", [][2]float64{{28.1, 56}}, []card.Wash{wash(flat, weakTea, of(1, "PY3"))}},
				{"Brass", [][2]float64{{12.5, 83}, {25.4, 73.9}, {21.7, 26}, {24, 19}, {14.9, 67.9}, {39.8, 32.2}}, []card.Wash{
					wash(flat, tea, of(3, "PY42"), of(1, "PBr7")), wash(pullOut, milk, of(1, "PBr7")), wash(technique.Shimmer, tea, of(1, "PW20-gold"))}},
				{"Iron", [][2]float64{{27.1, 6.1}, {10.8, 39.6}, {45.2, 39.6}, {8.4, 88.9}, {27.4, 64.2}}, []card.Wash{
					wash(flat, milk, of(1, "PB29"), of(1, "PBr7"))}},
				{"Cap", [][2]float64{{28, 82.7}}, []card.Wash{wash(flat, cream, of(1, "PW20-gold"))}},
			},
			last: snowed,
		},
	},
	{
		name: "Hermit crab, lantern night",
		set:  all(format("a2", fold.Left), forAnA2Envelope, notes("Invitation to the lantern-night beach count. Words go inside.")),
		work: work{
			drawing: "hermit-crab",
			areas: []area{
				{"Dusk", [][2]float64{{1, 1}}, []card.Wash{
					wash(wetInWet, weakTea, of(3, "PB29"), of(1, "PBr7")), wash(wetInWet, tea, of(2, "PB29"), of(1, "PV23")), wash(splatter, cream, of(1, "PW6"))}},
				{"Sand", [][2]float64{{32, 68.3}}, []card.Wash{
					wash(flat, weakTea, of(3, "PY42"), of(1, "PBr7"))}},
				{"Pebbles", [][2]float64{{13.2, 70}, {23, 72}, {41.2, 73}, {61.6, 72.9}, {69.9, 70.5}}, []card.Wash{
					wash(pullOut, tea, of(1, "PB29"), of(1, "PBr7")), wash(technique.Highlight, cream, of(1, "PW6"))}},
				{"Shell, light bands", [][2]float64{{17.2, 6.8}, {11.6, 21.4}, {15.7, 40.4}, {32.6, 19.6}, {36.9, 38.3}}, []card.Wash{
					wash(flat, weakTea, of(1, "PY42")), wash(pullOut, tea, of(2, "PY42"), of(1, "PBr7"))}},
				{"Shell, dark bands", [][2]float64{{18.2, 13.4}, {21, 26.5}, {37.3, 27.6}, {30.3, 50.8}}, []card.Wash{
					wash(flat, tea, of(1, "PR101"), of(1, "PBr7")), wash(glaze, tea, of(1, "PV19"))}},
				{"Lip of the shell", [][2]float64{{49.9, 33}}, []card.Wash{
					wash(flat, weakTea, of(1, "PV19"))}},
				{"Head and legs", [][2]float64{{50.2, 46.4}, {54.8, 51.1}, {48.5, 55.3}, {55.7, 57.4}, {60.6, 47.5}, {55.8, 35.3}, {61.3, 36.4}}, []card.Wash{
					wash(flat, tea, of(2, "PO62"), of(1, "PV19"))}},
				{"Claw", [][2]float64{{71.8, 43.1}, {77.9, 49.5}}, []card.Wash{
					wash(flat, tea, of(2, "PO62"), of(1, "PV19")), wash(pullOut, milk, of(1, "PV19"))}},
				{"Eyes", [][2]float64{{55.2, 26.2}, {62.7, 28.9}}, []card.Wash{
					wash(flat, weakTea, of(1, "PY3"))}},
			},
			joins: [][2]string{{"Head and legs", "Claw"}},
		},
	},
}
