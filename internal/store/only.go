package store

import (
	"context"
	"encoding/json"
	"fmt"

	"chromaqua/core/paper"
	"chromaqua/core/settings"
)

// PaperRevision is one state of the paper on hand.
type PaperRevision struct {
	Head
	Stock *paper.Stock
}

// Paper returns the paper on hand; a new studio has none.
func (s *Store) Paper(ctx context.Context) (*PaperRevision, error) {
	h, doc, err := s.only(ctx, paperKind, paper.New(), "an empty drawer")
	if err != nil {
		return nil, err
	}
	var st paper.Stock
	if err := json.Unmarshal(doc, &st); err != nil {
		return nil, fmt.Errorf("the paper on hand: %w", err)
	}
	return &PaperRevision{h, &st}, nil
}

// SettingsRevision is one state of the settings.
type SettingsRevision struct {
	Head
	Settings settings.Settings
}

// Settings returns what is true of the maker and the bench; a new studio has the
// defaults.
func (s *Store) Settings(ctx context.Context) (*SettingsRevision, error) {
	h, doc, err := s.only(ctx, settingsKind, settings.Default(), "the usual settings")
	if err != nil {
		return nil, err
	}
	v, err := settings.Decode(doc)
	if err != nil {
		return nil, err
	}
	return &SettingsRevision{h, v}, nil
}

// SaveSettings makes v the next revision of the settings; see [Store.Save].
func (s *Store) SaveSettings(ctx context.Context, id, base int64, v settings.Settings, what string) error {
	if err := v.Check(); err != nil {
		return err
	}
	doc, err := json.Marshal(v)
	if err != nil {
		return err
	}
	return s.save(ctx, id, base, doc, what)
}

// SavePaper makes st the next revision of the paper on hand; see [Store.Save].
func (s *Store) SavePaper(ctx context.Context, id, base int64, st *paper.Stock, what string) error {
	doc, err := json.Marshal(st)
	if err != nil {
		return err
	}
	return s.save(ctx, id, base, doc, what)
}
