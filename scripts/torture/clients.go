package main

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"slices"
	"strconv"
	"sync"
	"sync/atomic"
	"time"
)

// counted is a card that many count up at once.
type counted struct {
	path string
	up   atomic.Int64 // how often somebody was told that it was counted up
}

// clients lets many change the same cards at once. Whoever is told that a change was made
// has made it: the cards have been counted up as often as that.
func clients(ctx context.Context, b *bench) error {
	return within(ctx, b.binary, "serve", func(s *server) error { return b.change(ctx, s) })
}

func (b *bench) change(ctx context.Context, s *server) error {
	var cards []*counted
	for range 10 {
		path, err := s.newCard(ctx, "0")
		if err != nil {
			return err
		}
		cards = append(cards, &counted{path: path})
	}
	var asked, ours, refused atomic.Int64
	until := time.Now().Add(b.lasting)
	var all sync.WaitGroup
	for i := range b.clients {
		all.Go(func() {
			for n := i; time.Now().Before(until) && ctx.Err() == nil; n++ {
				status, err := countUp(ctx, s, cards[n%len(cards)])
				asked.Add(1)
				switch {
				case err != nil || status >= http.StatusInternalServerError:
					ours.Add(1)
				case status == http.StatusConflict:
					refused.Add(1)
				}
			}
		})
	}
	all.Wait()
	lost := 0
	for _, c := range cards {
		_, name, err := s.standing(ctx, c.path)
		if err != nil {
			return err
		}
		n, err := strconv.Atoi(name)
		if err != nil {
			return err
		}
		lost += int(c.up.Load()) - n
	}
	b.say("clients  %d for %.0f s: %d changes asked for, %d refused since another was quicker, %d answers of 5xx, %d updates lost", b.clients, b.lasting.Seconds(), asked.Load(), refused.Load(), ours.Load(), lost)
	if ours.Load() > 0 || lost != 0 {
		return errors.New("answers failed or updates were lost")
	}
	return s.close()
}

// countUp counts a card up by one, as a form on its page would.
func countUp(ctx context.Context, s *server, c *counted) (status int, err error) {
	page, err := s.get(ctx, c.path+"/format")
	if err != nil || page.status != http.StatusOK {
		return page.status, err
	}
	base, name, err := shown(page.body)
	if err != nil {
		return 0, err
	}
	n, err := strconv.Atoi(name)
	if err != nil {
		return 0, err
	}
	page, err = s.post(ctx, c.path+"/edit", "back", "format", "edit", "name", "name", strconv.Itoa(n+1), "base", base)
	if err == nil && page.status == http.StatusOK {
		c.up.Add(1)
	}
	return page.status, err
}

// What reading a card may cost beside a file that only lies there.
const (
	mostMedian = 4.0
	mostTail   = 8.0 // of the slowest hundredth
)

// readers lets many read at once, a card's page and a static file in turn.
func readers(ctx context.Context, b *bench) error {
	own, err := b.read(ctx, b.binary)
	if err != nil {
		return err
	}
	b.say("readers  %d for %.0f s: card page %s, static file %s; median %.1f ×, p99 %.1f ×", b.clients, b.lasting.Seconds(), own.page, own.file, own.page.median/own.file.median, own.page.tail/own.file.tail)
	if b.against != "" {
		other, err := b.read(ctx, b.against)
		if err != nil {
			return err
		}
		again, err := b.read(ctx, b.binary)
		if err != nil {
			return err
		}
		b.say("readers  of the other binary: card page %s, static file %s; of this one again: card page %s", other.page, other.file, again.page)
	}
	if own.page.median > mostMedian*own.file.median || own.page.tail > mostTail*own.file.tail {
		return fmt.Errorf("a card's page may take %g × a static file, its slowest hundredth %g ×", mostMedian, mostTail)
	}
	return nil
}

// times are what answers took, milliseconds.
type times struct{ median, tail float64 }

func (t times) String() string { return fmt.Sprintf("%.1f ms, p99 %.1f ms", t.median, t.tail) }

func timesOf(all []float64) times {
	slices.Sort(all)
	if len(all) == 0 {
		return times{}
	}
	return times{all[len(all)/2], all[len(all)*99/100]}
}

type reading struct{ page, file times }

func (b *bench) read(ctx context.Context, binary string) (out reading, err error) {
	err = within(ctx, binary, "demo", func(s *server) error {
		out, err = b.readAll(ctx, s)
		return err
	})
	return out, err
}

func (b *bench) readAll(ctx context.Context, s *server) (out reading, err error) {
	const page, file = "/cards/4/colour", "/static/app.css"
	for { // until its line is read
		a, err := s.get(ctx, "/cards/4/reading")
		if err != nil {
			return out, err
		}
		if regexpDone.MatchString(a.body) {
			break
		}
		time.Sleep(50 * time.Millisecond)
	}
	until := time.Now().Add(b.lasting)
	var mu sync.Mutex
	took := map[string][]float64{}
	var all sync.WaitGroup
	for range b.clients {
		all.Go(func() {
			mine := map[string][]float64{}
			for n := 0; time.Now().Before(until) && ctx.Err() == nil; n++ {
				path := []string{page, file}[n%2]
				start := time.Now()
				if a, failed := s.get(ctx, path); failed != nil || a.status != http.StatusOK {
					mu.Lock()
					err = fmt.Errorf("%s: %d %w", path, a.status, failed)
					mu.Unlock()
					return
				}
				mine[path] = append(mine[path], float64(time.Since(start).Microseconds())/1000)
			}
			mu.Lock()
			defer mu.Unlock()
			for path, v := range mine {
				took[path] = append(took[path], v...)
			}
		})
	}
	all.Wait()
	return reading{timesOf(took[page]), timesOf(took[file])}, err
}
