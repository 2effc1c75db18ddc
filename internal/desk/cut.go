package desk

import (
	"context"
	"slices"
	"time"

	"chromaqua/core/cutting"
	"chromaqua/core/paper"
	"chromaqua/internal/store"
)

// A cut plan is looked for in so many tries, so that the same job has the same
// plan; the limit in time guards against very large jobs.
const (
	cutTries = 150
	cutLimit = 2 * time.Second
	keptCuts = 24
)

// CutJob is cards to cut from the paper on hand.
type CutJob struct {
	Cards []CutCard
	Skip  []string // ids of paper that is not to be used
	Only  string   // id of the one paper of its kind that is; "" for any
}

// CutCard is a card with how often it is cut.
type CutCard struct {
	Rev    *store.Revision
	Copies int
}

// CutPlan is a job planned on the paper on hand.
type CutPlan struct {
	Plan  *cutting.Plan
	Steps []cutting.Step
	Parts []paper.Part
	Bill  paper.Bill
}

// cutKey names all that a cut plan depends on.
type cutKey struct {
	stock int64
	job   digest
}

func (j CutJob) key(st *store.PaperRevision) cutKey {
	type card struct{ ID, Seq, Copies int64 }
	var cards []card
	for _, c := range j.Cards {
		cards = append(cards, card{c.Rev.ID, c.Rev.Seq, int64(c.Copies)})
	}
	return cutKey{st.Seq, digestOf(struct {
		Cards []card
		Skip  []string
		Only  string
	}{cards, j.Skip, j.Only})}
}

// Cut plans a job.
func (d *Desk) Cut(ctx context.Context, j CutJob, st *store.PaperRevision) (*CutPlan, error) {
	key := j.key(st)
	if p, ok := d.cuts.Get(key); ok {
		return p, nil
	}
	var jobs []paper.Job
	for _, c := range j.Cards {
		jobs = append(jobs, paper.Job{Card: c.Rev.Card, Copies: c.Copies})
	}
	parts, err := paper.Parts(jobs)
	if err != nil {
		return nil, Refuse(err)
	}
	in := st.Stock.Instance("cut sheet", parts, j.uses(st.Stock))
	ctx, cancel := context.WithTimeout(ctx, cutLimit)
	defer cancel()
	p := &CutPlan{Parts: parts}
	if p.Plan, err = cutting.Solve(ctx, in, cutting.Budget{Tries: cutTries, Seed: 1}); err != nil {
		return nil, Refuse(paper.Worded(err, parts))
	}
	if p.Steps, err = p.Plan.Steps(in); err != nil {
		return nil, err
	}
	p.Bill = st.Stock.BillOf(p.Plan)
	d.cuts.Add(key, p)
	return p, nil
}

// uses allows the paper of a job: what is not skipped, and of the kind of Only that
// alone.
func (j CutJob) uses(st *paper.Stock) func(paper.Item) bool {
	only, err := st.Item(j.Only)
	return func(it paper.Item) bool {
		return !slices.Contains(j.Skip, it.ID) && (err != nil || it.Paper != only.Paper || it.ID == only.ID)
	}
}
