package paper_test

import (
	"bytes"
	"context"
	"errors"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"chromaqua/core/card"
	"chromaqua/core/cutting"
	"chromaqua/core/fold"
	"chromaqua/core/length"
	"chromaqua/core/nest"
	"chromaqua/core/paper"
	"chromaqua/core/shelf"
)

func inches(w, h length.Length) length.Size {
	return length.Size{W: w * length.Inch, H: h * length.Inch}
}

func stocked() *paper.Stock {
	s := paper.New()
	s.Add(paper.Item{Kind: paper.Pad, Paper: "cotton-cp", Size: inches(9, 12), Qty: 10, Weight: 300, Price: 120})
	s.Add(paper.Item{Kind: paper.Sheet, Paper: shelf.Cardstock, Size: inches(12, 12), Qty: 20, Weight: 270, Price: 45})
	s.Add(paper.Item{Kind: paper.Sheet, Paper: shelf.MatCardstock, Colour: "teal", Size: inches(12, 12), Qty: 20, Weight: 220, Price: 60})
	return s
}

func plan(t testing.TB, s *paper.Stock, jobs ...paper.Job) (*cutting.Instance, *cutting.Plan) {
	parts, err := paper.Parts(jobs)
	require.NoError(t, err)
	in := s.Instance("test", parts, nil)
	p, err := cutting.Solve(context.Background(), in, cutting.Budget{Tries: 50, Seed: 1})
	require.NoError(t, err)
	return in, p
}

func TestPartsOfACard(t *testing.T) {
	c := card.New("Crab", length.Inches)
	parts, err := paper.Parts([]paper.Job{{Card: c, Copies: 3}})
	require.NoError(t, err)
	require.Len(t, parts, 3)
	base, mat, panel := parts[0], parts[1], parts[2]
	assert.Equal(t, int64(8*length.Inch+length.Inch/2), base.W)
	assert.Equal(t, cutting.AlongH, base.Grain, "a side fold runs upright, and the grain with it")
	assert.Equal(t, "cotton-cp", panel.Type)
	assert.Equal(t, 3, mat.Qty)
	assert.Equal(t, "mat of Crab", mat.What)

	// The same piece for another card is the same part.
	other := card.New("Kelp", length.Inches)
	other.Layers = nil
	other.Panel.Margin = nest.Even(length.Inch / 4)
	parts, err = paper.Parts([]paper.Job{{Card: c, Copies: 3}, {Card: other, Copies: 2}})
	require.NoError(t, err)
	require.Len(t, parts, 3)
	assert.Equal(t, 5, parts[0].Qty)
	assert.Equal(t, "base of Crab, base of Kelp", parts[0].What)
	c.Base.Fold = fold.Top
	parts, err = paper.Parts([]paper.Job{{Card: c, Copies: 1}})
	require.NoError(t, err)
	assert.Equal(t, cutting.AlongW, parts[0].Grain)
	for _, n := range []int{0, -1, paper.MaxCopies + 1} {
		_, err = paper.Parts([]paper.Job{{Card: c, Copies: n}})
		assert.ErrorContains(t, err, "copies")
	}
}

// A card of many layers is cut as many pieces; a panel taken out of a painted
// sheet is not cut again.
func TestPartsOfLayers(t *testing.T) {
	c := card.New("Crab", length.Inches)
	require.NoError(t, c.AddLayer(card.Frame))
	c.Insert = &card.Insert{Margin: length.Inch / 4, Paper: shelf.Cardstock}
	c.Painting.Spare = length.Inch / 2
	parts, err := paper.Parts([]paper.Job{{Card: c, Copies: 1}})
	require.NoError(t, err)
	var what []string
	for _, p := range parts {
		what = append(what, p.What)
	}
	assert.Equal(t, []string{"base of Crab", "mat of Crab", "frame of Crab", "insert of Crab", "panel of Crab"}, what)
	assert.Equal(t, int64(c.PanelSize().W+length.Inch), parts[4].W, "with what is trimmed off")
	c.Window = &card.Window{}
	parts, err = paper.Parts([]paper.Job{{Card: c, Copies: 1}})
	require.NoError(t, err)
	assert.Len(t, parts, 4)
}

// Who asks for a colour gets it; who does not gets what nobody asked for.
func TestColourIsADemand(t *testing.T) {
	s := paper.New()
	for _, colour := range []string{"Teal", "sand", ""} {
		s.Add(paper.Item{Kind: paper.Sheet, Paper: shelf.MatCardstock, Colour: colour, Size: inches(9, 11), Qty: 1})
	}
	teal, any := card.New("Crab", length.Inches), card.New("Kelp", length.Inches)
	teal.Layers[0].Colour = " teal"
	parts, err := paper.Parts([]paper.Job{{Card: teal, Copies: 1}, {Card: any, Copies: 1}})
	require.NoError(t, err)
	in := s.Instance("x", parts, nil)
	assert.Equal(t, shelf.MatCardstock+", teal", in.Parts[1].Type)
	assert.Equal(t, shelf.MatCardstock, in.Parts[3].Type)
	types := map[string]int{}
	for _, st := range in.Stock {
		types[st.Type]++
	}
	assert.Equal(t, map[string]int{shelf.MatCardstock + ", teal": 1, shelf.MatCardstock: 2}, types)

	only := paper.New()
	only.Add(s.Items[0])
	in = only.Instance("x", parts, nil)
	assert.Equal(t, in.Parts[1].Type, in.Parts[3].Type, "there is only teal: both are cut from it")
}

func TestCuttingTakesSheetsAndKeepsLeftovers(t *testing.T) {
	s := stocked()
	_, p := plan(t, s, paper.Job{Card: card.New("Crab", length.Inches), Copies: 2})
	bill := s.BillOf(p)
	assert.Positive(t, bill.Sheets)
	assert.Positive(t, bill.Price)
	require.NoError(t, s.Cut(p))
	require.NoError(t, s.Check())
	sheets, offcuts := 0, 0
	for _, it := range s.Items {
		if it.Kind == paper.Offcut {
			offcuts += it.Qty
			assert.Zero(t, it.Price)
			assert.GreaterOrEqual(t, max(it.Size.W, it.Size.H), s.Least.H)
		} else {
			sheets += it.Qty
		}
	}
	assert.Equal(t, 50-bill.Sheets, sheets)
	assert.Positive(t, offcuts)

	// The next job uses the offcuts first.
	small := card.New("Tag", length.Inches)
	small.Base.Fold = fold.Flat
	require.NoError(t, small.Give("front", inches(2, 3)))
	small.Layers, small.Panel.Margin = nil, nest.Even(0)
	_, p = plan(t, s, paper.Job{Card: small, Copies: 1})
	assert.Zero(t, s.BillOf(p).Sheets)
	assert.Zero(t, p.Cost)
}

func TestCuttingWhatIsGone(t *testing.T) {
	s := stocked()
	_, p := plan(t, s, paper.Job{Card: card.New("Crab", length.Inches), Copies: 2})
	s.Items[0].Qty = 0
	before := len(s.Items)
	assert.ErrorContains(t, s.Cut(p), "make the plan again")
	assert.Len(t, s.Items, before, "nothing was changed")
	s.Remove("p1")
	assert.ErrorContains(t, s.Cut(p), "gone")
}

// What cannot be cut is called by its name.
func TestWorded(t *testing.T) {
	c := card.New("Crab", length.Inches)
	c.Layers[0].Colour = "Rust"
	parts, err := paper.Parts([]paper.Job{{Card: c, Copies: 1}})
	require.NoError(t, err)
	_, err = cutting.Solve(context.Background(), stocked().Instance("x", parts, nil), cutting.Budget{Tries: 5})
	require.Error(t, err)
	words := paper.Worded(err, parts).Error()
	assert.Contains(t, words, "the mat of Crab: there is no paper of type coloured cardstock 220 gsm, rust")
	other := errors.New("tea")
	assert.Equal(t, other, paper.Worded(other, parts))
}

// No paper appears or vanishes but for what is thrown away.
func TestPaperIsConserved(t *testing.T) {
	rapid.Check(t, func(rt *rapid.T) {
		s := stocked()
		c := card.New("x", length.Inches)
		require.NoError(t, c.Give("front", length.Size{W: length.Length(rapid.IntRange(20, 44).Draw(rt, "w")) * length.Inch / 8, H: length.Length(rapid.IntRange(20, 44).Draw(rt, "h")) * length.Inch / 8}))
		_, p := plan(t, s, paper.Job{Card: c, Copies: rapid.IntRange(1, 4).Draw(rt, "copies")})
		area := func() (sum float64) {
			for _, it := range s.Items {
				sum += it.Size.W.MM() * it.Size.H.MM() * float64(it.Qty)
			}
			return sum
		}
		before := area()
		bill := s.BillOf(p)
		used, cut := 0.0, 0.0
		for _, sh := range p.Sheets {
			it, err := s.Item(sh.Stock)
			require.NoError(rt, err)
			used += it.Size.W.MM() * it.Size.H.MM()
			for _, pl := range sh.Placements {
				cut += float64(pl.W) / 1e6 * float64(pl.H) / 1e6
			}
		}
		require.NoError(rt, s.Cut(p))
		require.InDelta(rt, before-cut-bill.Waste*used, area(), 1)
	})
}

func TestCSVRoundTrip(t *testing.T) {
	s := stocked()
	s.Items[0].Colour, s.Items[0].Grain = `a "warm", white`, paper.AlongHeight
	var buf bytes.Buffer
	require.NoError(t, s.WriteCSV(&buf))
	back, err := paper.ReadCSV(&buf, length.Millimetres)
	require.NoError(t, err)
	for i := range back {
		back[i].ID = s.Items[i].ID
	}
	assert.Equal(t, s.Items, back)
}

func TestReadCSVRefuses(t *testing.T) {
	const head = "kind,paper,width,height,quantity\n"
	for text, why := range map[string]string{
		"":                                     "the table is empty",
		head:                                   "no kinds of paper below",
		"kind,papr\n":                          "line 1, column 2",
		"kind,kind\n":                          "twice",
		"kind,paper,width,height\n":            `"quantity" is missing`,
		head + "sheet,cotton-cp,9,12\n":        "more or fewer cells",
		head + "sheet,cotton-cp,nine,12,1\n":   "line 2, column 3 (width)",
		head + "sheet,cotton-cp,9,3/0,1\n":     "line 2, column 4 (height)",
		head + "sheet,cotton-cp,9 ft,12,1\n":   "line 2, column 3",
		head + "sheet,cotton-cp,9,12,many\n":   "column 5 (quantity)",
		head + "sheet,cotton-cp,9,12,-1\n":     "-1 sheets",
		head + "sheet,parchment,9,12,1\n":      "parchment",
		head + "roll,cotton-cp,9,12,1\n":       "roll",
		head + "sheet,cotton-cp,9,12,999999\n": "outside",
		"kind,paper,width,height,quantity,price\nsheet,cotton-cp,9,12,1,dear\n": "column 6 (price)",
	} {
		got, err := paper.ReadCSV(strings.NewReader(text), length.Inches)
		assert.ErrorContains(t, err, why, text)
		assert.Nil(t, got, "all or nothing")
	}
}

func FuzzReadCSV(f *testing.F) {
	f.Add("kind,paper,width,height,quantity\nsheet,cotton-cp,9 in,12,5\n")
	f.Fuzz(func(t *testing.T, text string) {
		items, err := paper.ReadCSV(strings.NewReader(text), length.Inches)
		if err != nil {
			return
		}
		s := paper.New()
		for _, it := range items {
			s.Add(it)
		}
		for _, it := range s.Items {
			require.NoError(t, it.Check())
		}
	})
}

func TestTheSamePaperBecomesMore(t *testing.T) {
	s := stocked()
	s.Add(paper.Item{Kind: paper.Pad, Paper: "cotton-cp", Size: inches(9, 12), Qty: 5, Weight: 300, Price: 130})
	require.Len(t, s.Items, 3)
	assert.Equal(t, 15, s.Items[0].Qty)
	assert.Equal(t, 120, s.Items[0].Price)
}

func TestCheckRefuses(t *testing.T) {
	for why, change := range map[string]func(*paper.Stock){
		"has to measure":   func(s *paper.Stock) { s.Least.W = 0 },
		"stands twice":     func(s *paper.Stock) { s.Items[1].ID = s.Items[0].ID },
		"no kind of paper": func(s *paper.Stock) { s.Items[0].Kind = "roll" },
		"at most 2 m":      func(s *paper.Stock) { s.Items[0].Size.W = 3 * length.Metre },
		"grain":            func(s *paper.Stock) { s.Items[0].Grain = "diagonal" },
		"g/m²":             func(s *paper.Stock) { s.Items[0].Weight = -1 },
		"costs":            func(s *paper.Stock) { s.Items[0].Price = -1 },
		"characters":       func(s *paper.Stock) { s.Items[0].Colour = strings.Repeat("x", 81) },
	} {
		s := stocked()
		change(s)
		assert.ErrorContains(t, s.Check(), why)
	}
}
