package desk

import (
	"context"
	"strings"

	"chromaqua/core/card"
	"chromaqua/internal/picture"
	"chromaqua/internal/store"
)

// NewImage checks a picture file and makes it ready to store, with its real width
// where it says that; of a PDF it takes that page, from 1. It is decoded whole, so that a
// damaged file is refused now and not later.
func NewImage(ctx context.Context, data []byte, name string, page int) (store.Image, error) {
	data, width, err := picture.Kept(ctx, data, page)
	if err != nil {
		return store.Image{}, err
	}
	info, err := picture.Inspect(data)
	if err != nil {
		return store.Image{}, err
	}
	if _, err := picture.Grey(data); err != nil {
		return store.Image{}, err
	}
	title := strings.TrimSpace(strings.Map(func(r rune) rune {
		if r < ' ' || r == '\uFFFD' {
			return -1
		}
		return r
	}, name))
	if i := strings.LastIndexByte(title, '.'); i > 0 {
		title = title[:i]
	}
	if runes := []rune(title); len(runes) > card.MaxName {
		title = string(runes[:card.MaxName])
	}
	if title == "" {
		title = "Scan"
	}
	return store.Image{Hash: store.Hash(data), Title: title, Media: info.Media, Width: info.Width, Height: info.Height, Data: data, Real: width}, nil
}
