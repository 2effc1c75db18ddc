package panel

import (
	"fmt"
	"slices"

	"chromaqua/core/wording"
)

// An Impression is one image as it is stamped: with masks over what lies in front
// of it.
type Impression struct {
	Image   int   // of the card
	CutOuts []int // images that are covered meanwhile
}

// Impressions lists the images that leave ink in the order they are stamped: the
// one in front first, since what is stamped already is masked and stays whole.
func (b *Board) Impressions() (out []Impression) {
	for i := range b.Card.Images {
		if b.Card.Images[i].Inked() {
			out = append(out, Impression{i, b.Laid[i].Hidden})
		}
	}
	return out
}

// A CutOut is a mask cut out of paper.
type CutOut struct {
	Image  int   // whose silhouette it has
	Pieces int   // so many are needed at a time
	Covers []int // the images it covers, in turn: all of the same stamp
}

// CutOuts lists the masks to cut out. One cut for a stamp serves each of its
// impressions, so only as many are needed as lie on the panel at once.
func (b *Board) CutOuts() (out []CutOut) {
	for _, imp := range b.Impressions() {
		now := map[int]int{} // how many of each mask
		for _, j := range imp.CutOuts {
			i := slices.IndexFunc(out, func(m CutOut) bool { return b.Card.Images[m.Image].Alike(&b.Card.Images[j]) })
			if i < 0 {
				i = len(out)
				out = append(out, CutOut{Image: j})
			}
			if !slices.Contains(out[i].Covers, j) {
				out[i].Covers = append(out[i].Covers, j)
			}
			now[i]++
			out[i].Pieces = max(out[i].Pieces, now[i])
		}
	}
	return out
}

// Named words some of the card's images: "Crab and 2 of Kelp".
func (b *Board) Named(images []int) string {
	var names []string
	count := map[string]int{}
	for _, i := range images {
		title := b.Card.Images[i].Title
		if count[title]++; count[title] == 1 {
			names = append(names, title)
		}
	}
	for i, n := range names {
		if count[n] > 1 {
			names[i] = fmt.Sprintf("%d of %s", count[n], n)
		}
	}
	return wording.And(names)
}
