package order

import "fmt"

// Progress is how far an order has been carried out, in the times of its schedule.
type Progress struct {
	Now  Seconds
	Done []Past // begun operations, in any order
}

// A Past is an operation that is done, or in progress when it ends after now, with its
// actual times. Its coat is as dry by now, and dries on, as one laid at Laid that dries
// by air as the instance says: Laid is End where nothing is known, earlier where the
// coat was heated or dries faster, and later where it is still wet.
type Past struct {
	Placed
	Laid Seconds
	Coat *Coat // when it is dry where that is known better than from Laid, nil else
}

// Replanned is an order that goes on from what has been done.
type Replanned struct {
	Schedule          // the whole: what is done, with its actual times, and what is left
	Moved    int      // operations that left their old order
	Missed   []Missed // what was to meet while wet, and is too late
}

// Missed is an operation that should have gone into the wet coat of another. It now
// waits until that is touch-dry.
type Missed struct{ Into, Op int }

// Check reports the first thing in the progress that cannot have been.
func (p *Progress) Check(in *Instance) error {
	known, seen := map[int]bool{}, map[int]bool{}
	for _, o := range in.Ops {
		known[o.ID] = true
	}
	for _, d := range p.Done {
		switch {
		case !known[d.Op] || d.Copy != 0:
			return fmt.Errorf("what is done names operation %d, which the instance has not", d.Op)
		case seen[d.Op]:
			return fmt.Errorf("operation %d is done twice", d.Op)
		case d.End < d.Start || d.Start > p.Now:
			return fmt.Errorf("operation %d is done from %d to %d s, which cannot be by %d", d.Op, d.Start, d.End, p.Now)
		}
		seen[d.Op] = true
	}
	return nil
}
