package main

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"os"
	"path/filepath"
	"strings"
	"syscall"
)

// diskBytes is how large the disk is that fills up.
const diskBytes = 24 << 20

// disk runs the program on a small disk that fills up, is made room on, may not be
// written, and may again. It needs to be allowed to mount one; where it is not, it says so.
func disk(ctx context.Context, b *bench) (err error) {
	dir, err := os.MkdirTemp("", "torture-*")
	if err != nil {
		return err
	}
	defer os.RemoveAll(dir)
	size := fmt.Sprintf("size=%d", diskBytes)
	if err := syscall.Mount("tmpfs", dir, "tmpfs", 0, size); err != nil {
		b.say("disk     not run: this machine lets nobody mount a small disk (%v)", err)
		return nil
	}
	defer func() { err = errors.Join(err, syscall.Unmount(dir, syscall.MNT_DETACH)) }()
	s, err := begin(ctx, b.binary, "serve", filepath.Join(dir, "studio.db"))
	if err != nil {
		return err
	}
	defer s.kill()
	card, err := s.newCard(ctx, "before")
	if err != nil {
		return err
	}
	ballast := filepath.Join(dir, "ballast")
	if err := fill(ballast); err != nil {
		return err
	}
	if err := fails(ctx, s, card, http.StatusInsufficientStorage, "the disk is full"); err != nil {
		return err
	}
	if err := os.Remove(ballast); err != nil {
		return err
	}
	if err := works(ctx, s, card, "after it was full"); err != nil {
		return err
	}
	if err := s.close(); err != nil {
		return err
	}
	if err := syscall.Mount("", dir, "", syscall.MS_REMOUNT|syscall.MS_RDONLY, size); err != nil {
		return err
	}
	if _, err := begin(ctx, b.binary, "serve", filepath.Join(dir, "studio.db")); err == nil || !strings.Contains(err.Error(), "may not be written") {
		return fmt.Errorf("on a disk that may only be read it says: %w", err)
	}
	if err := syscall.Mount("", dir, "", syscall.MS_REMOUNT, size); err != nil {
		return err
	}
	if s, err = begin(ctx, b.binary, "serve", filepath.Join(dir, "studio.db")); err != nil {
		return err
	}
	defer s.kill()
	if err := works(ctx, s, card, "after it was read-only"); err != nil {
		return err
	}
	b.say("disk     of %d MB, full and read-only: told as such, nothing lost, gone on after", diskBytes>>20)
	return s.close()
}

// fill writes a file until the disk is full to its last byte.
func fill(path string) error {
	f, err := os.Create(path)
	if err != nil {
		return err
	}
	defer f.Close()
	for _, size := range []int{1 << 20, 4096, 1} {
		for {
			if _, err := f.Write(make([]byte, size)); errors.Is(err, syscall.ENOSPC) {
				break
			} else if err != nil {
				return err
			}
		}
	}
	return nil
}

// fails renames a card until that is refused, as one of the words say; what was stored
// before has to stay.
func fails(ctx context.Context, s *server, card string, status int, words ...string) error {
	last := ""
	for n := range 10_000 {
		page, err := s.get(ctx, card+"/format")
		if err != nil {
			return err
		}
		if page.status != http.StatusOK {
			return fmt.Errorf("what is stored cannot be looked at any more: %d", page.status)
		}
		base, name, err := shown(page.body)
		if err != nil {
			return err
		}
		if last != "" && name != last {
			return fmt.Errorf("%q was acknowledged, %q is there", last, name)
		}
		next := fmt.Sprintf("change %d", n)
		page, err = s.post(ctx, card+"/edit", "back", "format", "edit", "name", "name", next, "base", base)
		if err != nil {
			return err
		}
		if page.status == http.StatusOK {
			last = next
			continue
		}
		for _, w := range words {
			if page.status == status && strings.Contains(strings.ToLower(page.body), w) {
				return nil
			}
		}
		return fmt.Errorf("it answers %d, without the words %q; it logged %.600s", page.status, words, s.log)
	}
	return errors.New("writing goes on and on")
}

// works renames a card and looks whether that is stored.
func works(ctx context.Context, s *server, card, name string) error {
	base, _, err := s.standing(ctx, card)
	if err != nil {
		return err
	}
	page, err := s.post(ctx, card+"/edit", "back", "format", "edit", "name", "name", name, "base", base)
	if err != nil {
		return err
	}
	if _, got, err := shown(page.body); err != nil || got != name {
		return fmt.Errorf("it does not go on %s: %d", name, page.status)
	}
	return nil
}
