package order

import (
	"encoding/json"
	"errors"
	"fmt"
	"io"
)

// Read decodes and checks an instance; unknown fields are refused so that
// slips are noticed.
func Read(r io.Reader) (*Instance, error) {
	d := json.NewDecoder(r)
	d.DisallowUnknownFields()
	var in Instance
	if err := d.Decode(&in); err != nil {
		return nil, fmt.Errorf("reading the instance: %w", err)
	}
	return &in, in.Check()
}

// Check reports the first thing wrong with an instance.
func (in *Instance) Check() error {
	switch n := len(in.Ops); {
	case n == 0:
		return errors.New("there is nothing to paint: the instance has no operations")
	case n > MaxOps:
		return fmt.Errorf("%d operations are more than %d", n, MaxOps)
	case in.Copies < 1 || in.Copies > MaxCopies:
		return fmt.Errorf("%d copies are outside 1 to %d", in.Copies, MaxCopies)
	case n*in.Copies > MaxPlaced:
		return fmt.Errorf("%d operations on %d copies are more than %d together", n, in.Copies, MaxPlaced)
	case in.Rack < 0:
		return errors.New("the rack cannot hold fewer than no cards")
	case in.Hand != NoHand && in.Hand != Right && in.Hand != Left:
		return fmt.Errorf("%q is no hand; use right or left", string(in.Hand))
	case in.Heat.Allowed && (in.Heat.Factor < 1 || in.Heat.Factor > 1000):
		return fmt.Errorf("a heat factor of %d is outside 1 to 1000", in.Heat.Factor)
	}
	for name, v := range map[string]Seconds{"rinse": in.Rinse, "swap": in.Swap, "heat.min": in.Heat.Min} {
		if err := seconds(name, v); err != nil {
			return err
		}
	}
	job, err := in.checkOps()
	if err != nil {
		return err
	}
	return errors.Join(in.checkArcs(job), in.checkJoins(job))
}

// checkOps checks the operations and returns the job of each by its id.
func (in *Instance) checkOps() (map[int]int, error) {
	job := map[int]int{}
	for _, o := range in.Ops {
		if _, twice := job[o.ID]; twice {
			return nil, fmt.Errorf("operation %d stands twice", o.ID)
		}
		if job[o.ID] = o.Job; o.Job < 0 || o.Job >= MaxJobs {
			return nil, fmt.Errorf("operation %d: job %d is outside 0 to %d", o.ID, o.Job, MaxJobs-1)
		}
		if o.Light < 0 || o.Light > 100 {
			return nil, fmt.Errorf("operation %d: a lightness of %d is outside 0 to 100", o.ID, o.Light)
		}
		for i, v := range [...]Seconds{o.Dur, o.Dry, o.Bone, o.HeatDry, o.HeatBone} {
			if v < 0 || v > MaxSeconds {
				return nil, fmt.Errorf("operation %d: %w", o.ID, seconds([...]string{"dur", "dry", "bone", "heatDry", "heatBone"}[i], v))
			}
		}
	}
	return job, nil
}

// tied reports two ids that are not two operations of one card.
func tied(job map[int]int, what string, a, b int) error {
	ja, okA := job[a]
	jb, okB := job[b]
	switch {
	case !okA || !okB || a == b:
		return fmt.Errorf("%s operations %d and %d, which are not two operations of the instance", what, a, b)
	case ja != jb:
		return fmt.Errorf("%s operations %d and %d, which are of different cards", what, a, b)
	}
	return nil
}

func (in *Instance) checkArcs(job map[int]int) error {
	for _, a := range in.Arcs {
		if err := tied(job, "an arc joins", a.From, a.To); err != nil {
			return err
		}
		if a.Type != After && a.Type != Dry && a.Type != Bone && a.Type != Wet {
			return fmt.Errorf("arc %d → %d: %q is no type; use after, dry, bone or wet", a.From, a.To, a.Type)
		}
		if err := errors.Join(seconds("arc min", a.Min), seconds("arc clock", a.Clock), seconds("arc max", a.Max)); err != nil {
			return err
		}
	}
	return nil
}

func (in *Instance) checkJoins(job map[int]int) error {
	for _, j := range in.Joins {
		if err := tied(job, "a join ties", j.A, j.B); err != nil {
			return err
		}
		if err := errors.Join(seconds("join max", j.Max), seconds("join back", j.Back)); err != nil {
			return err
		}
	}
	return nil
}

func seconds(name string, v Seconds) error {
	if v < 0 || v > MaxSeconds {
		return fmt.Errorf("%s: %d s is outside 0 to %d", name, v, MaxSeconds)
	}
	return nil
}
