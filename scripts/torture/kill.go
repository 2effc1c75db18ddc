package main

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"math/rand/v2"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"
	"sync"
	"time"

	_ "modernc.org/sqlite" // registers the driver

	"chromaqua/core/shelf"
)

// writers are how many write while the program is killed.
const writers = 4

// kills kills the program again and again while it writes, and looks each time whether
// everything that was acknowledged is there.
func kills(ctx context.Context, b *bench) error {
	dir, err := os.MkdirTemp("", "torture-*")
	if err != nil {
		return err
	}
	defer os.RemoveAll(dir)
	c := &killing{data: filepath.Join(dir, "studio.db"), random: rand.New(rand.NewPCG(1, 2)), acked: make([]int, writers)}
	if err := c.prepare(ctx, b.binary); err != nil {
		return err
	}
	for n := range b.kills {
		if err := c.round(ctx, b.binary); err != nil {
			return fmt.Errorf("kill %d: %w", n+1, err)
		}
	}
	changes := len(c.shelved) + c.told
	for _, n := range c.acked {
		changes += n
	}
	b.say("kill     %d kills, %d changes acknowledged, 0 lost; %d backups asked for, %d there and whole; file sound every time", b.kills, changes, c.asked, c.backups)
	return nil
}

// killing is what was acknowledged so far.
type killing struct {
	data    string
	random  *rand.Rand
	cards   []string // addresses, one a writer
	acked   []int    // the last number each writer was told is stored
	shelved []string
	told    int // events of the bench that were acknowledged
	asked   int
	backups int
}

func (c *killing) prepare(ctx context.Context, binary string) error {
	s, err := begin(ctx, binary, "serve", c.data)
	if err != nil {
		return err
	}
	for i := range writers {
		card, err := s.newCard(ctx, "0")
		if err != nil {
			return err
		}
		c.cards, c.acked[i] = append(c.cards, card), 0
	}
	if a, err := s.post(ctx, "/bench/timers", "technique", "flat", "paper", "cotton-cp", "size", "petal"); err != nil || a.status != http.StatusOK {
		return fmt.Errorf("a wash was not put on the clock: %d, %w", a.status, err)
	}
	return s.close()
}

// round lets the writers write, kills the program, starts it again and looks.
func (c *killing) round(ctx context.Context, binary string) error {
	s, err := begin(ctx, binary, "serve", c.data)
	if err != nil {
		return err
	}
	writing, stop := context.WithCancel(ctx)
	defer stop()
	var all sync.WaitGroup
	for i := range writers {
		all.Go(func() { c.write(writing, s, i) })
	}
	told := 0
	all.Go(func() { told = tell(writing, s, c.told) })
	var shelved []string
	all.Go(func() { shelved = shelve(writing, s, len(c.shelved)) })
	backup := filepath.Join(filepath.Dir(c.data), fmt.Sprintf("backup-%d.db", c.asked))
	all.Go(func() { _ = backUp(writing, binary, c.data, backup) })
	c.asked++
	time.Sleep(time.Duration(20+c.random.IntN(300)) * time.Millisecond)
	s.kill()
	stop()
	all.Wait()
	c.shelved, c.told = append(c.shelved, shelved...), c.told+told
	if err := c.heard(); err != nil {
		return err
	}
	if err := c.sound(backup); err != nil {
		return err
	}
	if s, err = begin(ctx, binary, "serve", c.data); err != nil {
		return err
	}
	defer s.kill()
	return c.look(ctx, s)
}

// write counts a card up, one change after the other, until the program is gone.
func (c *killing) write(ctx context.Context, s *server, i int) {
	page, err := s.get(ctx, c.cards[i]+"/format")
	for err == nil {
		var base string
		if base, _, err = shown(page.body); err != nil {
			return
		}
		page, err = s.post(ctx, c.cards[i]+"/edit", "back", "format", "edit", "name", "name", strconv.Itoa(c.acked[i]+1), "base", base)
		if err == nil && page.status == http.StatusOK && strings.HasSuffix(page.path, "/format") {
			c.acked[i]++
		}
	}
}

// shelve puts inks on the shelf, and returns those that are there for certain.
func shelve(ctx context.Context, s *server, from int) (there []string) {
	page, err := s.get(ctx, "/shelf")
	for n := from; err == nil; n++ {
		base := baseIn.FindStringSubmatch(page.body)
		if base == nil {
			return there
		}
		if n >= shelf.MaxOwn {
			return there
		}
		name := fmt.Sprintf("Ink %d", n)
		page, err = s.post(ctx, "/shelf", "edit", "add", "name", name, "like", "ink:pen", "base", base[1])
		if err == nil && page.status == http.StatusOK {
			there = append(there, name)
		}
	}
	return there
}

// tell tells what happens at the bench, press by press, and returns how many presses were
// acknowledged.
func tell(ctx context.Context, s *server, from int) (told int) {
	for {
		a, err := s.post(ctx, "/bench/1", "kind", "note", "text", "pressed", "once", fmt.Sprintf("press-%d", from+told))
		if err != nil || a.status != http.StatusOK {
			return told
		}
		told++
	}
}

// heard finds every press that was acknowledged, once.
func (c *killing) heard() error {
	db, err := sql.Open("sqlite", c.data)
	if err != nil {
		return err
	}
	var n int
	err = db.QueryRow("SELECT COUNT(*) FROM events WHERE once LIKE 'press-%'").Scan(&n)
	if err = errors.Join(err, db.Close()); err != nil {
		return err
	}
	if n < c.told || n > c.told+1 {
		return fmt.Errorf("%d presses were acknowledged, %d are stored", c.told, n)
	}
	c.told = n // the last was stored, though nobody was told any more
	return nil
}

// sound checks the file and the backup that was being made, if it has its name.
func (c *killing) sound(backup string) error {
	if err := integrity(c.data); err != nil {
		return fmt.Errorf("the studio file: %w", err)
	}
	if _, err := os.Stat(backup); err == nil {
		if err := integrity(backup); err != nil {
			return fmt.Errorf("a bad backup was taken for good: %w", err)
		}
		c.backups++
		return os.Remove(backup)
	}
	return nil
}

// backUp makes a backup beside the running program, which may be killed meanwhile.
func backUp(ctx context.Context, binary, data, to string) error {
	return exec.CommandContext(ctx, binary, "backup", to, "--data", data).Run()
}

func integrity(path string) (err error) {
	db, err := sql.Open("sqlite", path)
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, db.Close()) }()
	var said string
	if err := db.QueryRow("PRAGMA integrity_check").Scan(&said); err != nil {
		return err
	}
	if said != "ok" {
		return errors.New(said)
	}
	return nil
}

// look finds every change that was acknowledged.
func (c *killing) look(ctx context.Context, s *server) error {
	for i, card := range c.cards {
		_, name, err := s.standing(ctx, card)
		if err != nil {
			return err
		}
		n, err := strconv.Atoi(name)
		if err != nil || n < c.acked[i] || n > c.acked[i]+1 {
			return fmt.Errorf("%s shows %q; %d was acknowledged", card, name, c.acked[i])
		}
		c.acked[i] = n // stored, though nobody was told any more
	}
	page, err := s.get(ctx, "/shelf")
	if err != nil {
		return err
	}
	for _, name := range c.shelved {
		if !strings.Contains(page.body, ">"+name+"<") {
			return fmt.Errorf("%s was acknowledged and is not on the shelf", name)
		}
	}
	return nil
}
