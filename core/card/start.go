package card

import (
	"errors"

	"chromaqua/core/length"
	"chromaqua/core/nest"
)

// StartFrom gives one ring its size and lets all others follow from it.
func (c *Card) StartFrom(id string, size length.Size) error {
	r, _, err := c.ring(id)
	if err != nil {
		return err
	}
	c.recentre(func() {
		c.letFollow()
		c.Envelope = nil
		c.give(r, size)
	})
	return nil
}

// PanelAlone makes the panel, as large as it is, the whole front: mats and frames come
// off, and nothing shows round it.
func (c *Card) PanelAlone() error {
	size := c.PanelSize()
	if size == (length.Size{}) {
		return errNoRing
	}
	c.recentre(func() {
		c.setFront(length.Size{})
		c.Layers = []Layer{}
		c.Panel.Size, c.Panel.Margin = size, nest.Even(0)
	})
	return nil
}

// StartFromEnvelope lets all sizes follow from the envelope at hand.
func (c *Card) StartFromEnvelope() error {
	if c.Envelope == nil {
		return errors.New("choose the envelope first; the card then follows from it")
	}
	c.recentre(c.letFollow)
	return nil
}

func (c *Card) letFollow() {
	c.Base.Across = c.Front().W > c.Front().H
	for _, r := range c.sizes() {
		c.give(r, length.Size{})
	}
}
