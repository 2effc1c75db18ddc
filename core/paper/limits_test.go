package paper_test

import (
	"context"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/cutting"
	"chromaqua/core/length"
	"chromaqua/core/paper"
	"chromaqua/core/shelf"
)

// What the drawer takes, and what is one too many.
func TestLimitsOfTheDrawer(t *testing.T) {
	die := func(i int) card.DieSet {
		return card.DieSet{Name: fmt.Sprint("set ", i), Edge: card.Plain, Sizes: []length.Size{inches(2, 3)}}
	}
	item := func(s *paper.Stock) *paper.Item { return &s.Items[0] }
	for what, set := range map[string]func(s *paper.Stock, more int){
		"items": func(s *paper.Stock, more int) {
			for i := len(s.Items); i < paper.MaxItems+more; i++ {
				s.Items = append(s.Items, paper.Item{ID: fmt.Sprint("x", i), Kind: paper.Sheet, Paper: "kraft", Size: inches(9, 9)})
			}
		},
		"dies": func(s *paper.Stock, more int) {
			for i := range paper.MaxDieSets + more {
				s.PutDieSet(die(i))
			}
		},
		"supplies": func(s *paper.Stock, more int) {
			for i := range paper.MaxSupplies + more {
				s.Supplies = append(s.Supplies, paper.Supply{ID: fmt.Sprint("s", i), What: paper.Ink, Name: fmt.Sprint("ink ", i), Unit: "ml"})
			}
		},
		"uses":   func(s *paper.Stock, more int) { s.Used = make([]paper.Use, paper.MaxUses+more) },
		"id":     func(s *paper.Stock, more int) { item(s).ID = strings.Repeat("x", 20+more) },
		"sheets": func(s *paper.Stock, more int) { item(s).Qty = paper.MaxQuantity + more },
		"none":   func(s *paper.Stock, more int) { item(s).Qty = -more },
		"weight": func(s *paper.Stock, more int) { item(s).Weight = paper.MaxWeight + more },
		"price":  func(s *paper.Stock, more int) { item(s).Price = paper.MaxPrice + more },
		"colour": func(s *paper.Stock, more int) { item(s).Colour = strings.Repeat("é", paper.MaxText+more) },
		"wide":   func(s *paper.Stock, more int) { item(s).Size.W = length.Max + length.Length(more) },
		"high":   func(s *paper.Stock, more int) { item(s).Size.H = length.Max + length.Length(more) },
		"narrow": func(s *paper.Stock, more int) { item(s).Size.W = 1 - length.Length(more) },
		"low":    func(s *paper.Stock, more int) { item(s).Size.H = 1 - length.Length(more) },
		"least":  func(s *paper.Stock, more int) { s.Least.H = length.Max + length.Length(more) },
		"no least": func(s *paper.Stock, more int) {
			s.Least.H = 1 - length.Length(more)
		},
	} {
		s := stocked()
		set(s, 0)
		assert.NoError(t, s.Check(), what)
		s = stocked()
		set(s, 1)
		assert.Error(t, s.Check(), what)
	}
	s := stocked()
	s.Items[2].ID = ""
	assert.ErrorContains(t, s.Check(), "is empty")
	s = stocked()
	s.Dies = []card.DieSet{{Name: " "}}
	assert.Error(t, s.Check())
	s = stocked()
	s.Supplies = []paper.Supply{{ID: "s1", What: paper.Ink, Name: "x", Unit: "ml", Left: paper.MaxAmount + 1}}
	assert.ErrorContains(t, s.Check(), "what is left")
	for text, want := range map[string]int{"": 0, "2.5": 250, "2,50": 250, "0.005": 1, "10000": 1_000_000, "10000.01": -1, "-1": -1, "1,000.5": -1, "NaN": -1} {
		got, err := paper.ParsePrice(text)
		assert.Equal(t, want < 0, err != nil, text)
		assert.Equal(t, max(0, want), got, text)
	}
}

// Die sets are called by their names; who gets one may change it.
func TestDieSets(t *testing.T) {
	s := paper.New()
	s.PutDieSet(card.DieSet{Name: "ovals", Sizes: []length.Size{inches(2, 3)}})
	s.PutDieSet(card.DieSet{Name: "tags", Sizes: []length.Size{inches(1, 2)}})
	s.PutDieSet(card.DieSet{Name: "ovals", Sizes: []length.Size{inches(3, 4), inches(4, 5)}})
	require.Len(t, s.Dies, 2)
	d, err := s.DieSet("ovals")
	require.NoError(t, err)
	assert.Len(t, d.Sizes, 2)
	d.Sizes[0] = inches(9, 9)
	again, err := s.DieSet("ovals")
	require.NoError(t, err)
	assert.Equal(t, inches(3, 4), again.Sizes[0])
	s.RemoveDieSet("ovals")
	_, err = s.DieSet("ovals")
	assert.ErrorContains(t, err, "ovals")
	_, err = s.DieSet("tags")
	assert.NoError(t, err)
}

// A leftover is kept when it is large enough, either way round.
func TestWhatIsKept(t *testing.T) {
	s := paper.New() // from 2 × 3 in
	for _, c := range []struct {
		w, h length.Length
		kept bool
	}{{32, 48, true}, {31, 48, false}, {32, 47, false}, {48, 32, true}, {48, 31, false}, {47, 32, false}, {200, 31, false}, {31, 200, false}, {60, 60, true}} {
		assert.Equal(t, c.kept, s.Keeps(length.Size{W: c.w * length.Sixteenth, H: c.h * length.Sixteenth}), "%v", c)
	}
}

// Read from the top: by paper and colour, whole sheets before offcuts, the larger before the
// smaller; numbers that were given stay.
func TestReadingThePaper(t *testing.T) {
	s := paper.New()
	for _, it := range []paper.Item{
		{Kind: paper.Offcut, Paper: "kraft", Size: inches(9, 9)}, {Kind: paper.Sheet, Paper: "kraft", Size: inches(4, 4)}, {Kind: paper.Pad, Paper: "kraft", Size: inches(3, 8)},
		{Kind: paper.Sheet, Paper: "cotton-cp", Size: inches(5, 5), Colour: "white"}, {Kind: paper.Sheet, Paper: "cotton-cp", Size: inches(5, 5)}, {Kind: paper.Sheet, Paper: "kraft", Size: inches(9, 9), Colour: "dark"},
	} {
		it.Qty = 1
		s.Add(it)
	}
	s.Sort()
	var ids []string
	for _, it := range s.Items {
		ids = append(ids, it.ID)
	}
	assert.Equal(t, []string{"p5", "p4", "p3", "p2", "p1", "p6"}, ids)
	assert.Equal(t, []string{"dark", "white"}, s.Colours())
	s.Remove("p5")
	s.Add(paper.Item{Kind: paper.Sheet, Paper: "kraft", Size: inches(1, 1), Qty: 2})
	it, err := s.Item("p7")
	require.NoError(t, err, "p6 is taken")
	assert.Equal(t, "kraft card 300 gsm", it.Name())
	s.Add(paper.Item{Kind: paper.Sheet, Paper: "kraft", Size: inches(1, 1), Qty: 3, Price: 9})
	assert.Equal(t, 5, s.Items[len(s.Items)-1].Qty)
	assert.Equal(t, "kraft card 300 gsm, dark", s.Items[4].Name())
	assert.Equal(t, "lost", paper.Item{Paper: "lost"}.Name())
}

// What the cutter is asked, item by item; and what its plan costs and wastes, by hand.
func TestAskedAndBilled(t *testing.T) {
	s := paper.New()
	for _, it := range []paper.Item{
		{Kind: paper.Sheet, Paper: "kraft", Size: inches(8, 10), Qty: 3, Price: 150, Grain: paper.AlongWidth},
		{Kind: paper.Offcut, Paper: "kraft", Size: inches(4, 5), Qty: 1, Grain: paper.AlongHeight},
		{Kind: paper.Block, Paper: "cotton-cp", Size: inches(9, 12), Qty: 1}, {Kind: paper.Pad, Paper: "cotton-hp", Size: inches(9, 12)},
	} {
		s.Add(it)
	}
	in := s.Instance("x", nil, func(it paper.Item) bool { return it.Kind != paper.Block })
	require.Len(t, in.Stock, 2, "what there is none of, and what is not to be used, is left out")
	assert.Equal(t, cutting.Stock{ID: "p1", Type: "kraft", W: int64(8 * length.Inch), H: int64(10 * length.Inch), Qty: 3, Grain: cutting.AlongX, Cost: 1}, in.Stock[0])
	assert.Equal(t, cutting.Stock{ID: "p2", Type: "kraft", W: int64(4 * length.Inch), H: int64(5 * length.Inch), Qty: 1, Grain: cutting.AlongY, Offcut: true}, in.Stock[1])
	assert.Equal(t, cutting.NoGrain, s.Instance("x", nil, nil).Stock[2].Grain)

	rect := func(w, h length.Length) cutting.Rect {
		return cutting.Rect{W: int64(w * length.Inch), H: int64(h * length.Inch)}
	}
	p := &cutting.Plan{Sheets: []cutting.Sheet{
		{Stock: "p1", Placements: []cutting.Placement{{Part: "a", Rect: rect(6, 10)}}, Leftovers: []cutting.Rect{rect(2, 3), rect(1, 10)}},
		{Stock: "p2", Placements: []cutting.Placement{{Part: "b", Rect: rect(4, 5)}}}, {Stock: "gone"},
	}}
	b := s.BillOf(p)
	assert.Equal(t, []int{1, 1, 150}, []int{b.Sheets, b.Offcuts, b.Price})
	assert.InDelta(t, 14.0/100, b.Waste, 1e-9, "80 + 20 square inches, of which 60 + 20 are parts and 6 are kept")
	assert.Zero(t, s.BillOf(&cutting.Plan{}).Waste)

	p.Sheets = p.Sheets[:2]
	require.NoError(t, s.Cut(p))
	left := map[string]int{}
	for _, it := range s.Items {
		left[fmt.Sprint(it.Kind, " ", it.Size.With(length.Inches))] = it.Qty
	}
	assert.Equal(t, map[string]int{"sheet 8 × 10 in": 2, "offcut 2 × 3 in": 1, "block 9 × 12 in": 1, "pad 9 × 12 in": 0}, left, "what there was none of is still listed")
	p.Sheets = []cutting.Sheet{{Stock: "p1"}, {Stock: "p1"}, {Stock: "p1"}}
	assert.ErrorContains(t, s.Cut(p), "than the 2 there are")
	require.NoError(t, s.Cut(&cutting.Plan{Sheets: p.Sheets[:2]}))
}

// Parts of any colour share the colour there is most of, where every colour is asked for.
func TestTheColourThereIsMostOf(t *testing.T) {
	s := paper.New()
	for i, colour := range []string{"teal", "sand", "rust"} {
		s.Add(paper.Item{Kind: paper.Sheet, Paper: shelf.MatCardstock, Colour: colour, Size: inches(9, 11), Qty: []int{2, 7, 3}[i]})
	}
	parts := []paper.Part{{Part: cutting.Part{ID: "any", Type: shelf.MatCardstock}}}
	for _, colour := range []string{"teal", "sand", "rust"} {
		parts = append(parts, paper.Part{Part: cutting.Part{ID: colour, Type: shelf.MatCardstock + ", " + colour}})
	}
	assert.Equal(t, shelf.MatCardstock+", sand", s.Instance("x", parts, nil).Parts[0].Type)
	assert.Equal(t, shelf.MatCardstock, s.Instance("x", parts[:3], nil).Parts[0].Type, "nobody asked for rust")
	_, err := cutting.Solve(context.Background(), s.Instance("x", parts[:1], nil), cutting.Budget{Tries: 1})
	assert.Error(t, err, "a part has a size")
}
