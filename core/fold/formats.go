// Package fold answers "what do I cut, where do I score it, and which envelope
// does it go into?" for folded cards. All lengths are exact.
package fold

import (
	"fmt"

	"chromaqua/core/length"
)

// A Format is the finished front of a card, portrait.
type Format struct {
	ID    string
	Name  string
	Front length.Size
	Basis string // the standard or trade convention it comes from
}

// An Envelope by its inside size, long side first.
type Envelope struct {
	ID     string
	Name   string
	Inside length.Size
	Basis  string
}

// in returns n sixteenths of an inch.
func in(sixteenths length.Length) length.Length { return sixteenths * length.Sixteenth }

func inches(w, h length.Length) length.Size { return length.Size{W: in(w), H: in(h)} }

func mm(w, h length.Length) length.Size {
	return length.Size{W: w * length.Millimetre, H: h * length.Millimetre}
}

const (
	usTrade   = "US stationery trade"
	isoPaper  = "ISO 216"
	euroTrade = "European stationery trade"
	isoMail   = "ISO 269"
)

// Formats lists the standard formats; sizes in sixteenths of an inch or
// millimetres. The US A2 is not the ISO A2.
func Formats() []Format {
	return []Format{
		{"a2", "A2", inches(68, 88), usTrade},
		{"a6", "A6", inches(72, 100), usTrade},
		{"a7", "A7", inches(80, 112), usTrade},
		{"slim10", "slim #10", inches(64, 144), usTrade},
		{"sq5.5", "5 1/2 in square", inches(88, 88), usTrade},
		{"a1", "A1", inches(56, 80), usTrade},
		{"4bar", "4-bar", inches(56, 78), usTrade},
		{"a8", "A8", inches(84, 124), usTrade},
		{"a9", "A9", inches(88, 136), usTrade},
		{"sq5", "5 in square", inches(80, 80), usTrade},
		{"sq6", "6 in square", inches(96, 96), usTrade},
		{"iso-a6", "ISO A6", mm(105, 148), isoPaper},
		{"iso-a5", "ISO A5", mm(148, 210), isoPaper},
		{"dl", "DL", mm(99, 210), "a third of ISO A4"},
		{"sq130", "130 mm square", mm(130, 130), euroTrade},
		{"sq150", "150 mm square", mm(150, 150), euroTrade},
		{"postcard", "postcard 4 × 6", inches(64, 96), usTrade},
		{"journal34", "journal card 3 × 4", inches(48, 64), usTrade},
		{"journal44", "journal card 4 × 4", inches(64, 64), usTrade},
	}
}

// Envelopes lists the standard envelopes, smallest first.
func Envelopes() []Envelope {
	return []Envelope{
		{"env-a1", "A1", inches(82, 58), usTrade},
		{"env-4bar", "4-bar", inches(82, 58), usTrade},
		{"env-a2", "A2", inches(92, 70), usTrade},
		{"env-sq5.25", "5 1/4 in square", inches(84, 84), usTrade},
		{"env-a6", "A6", inches(104, 76), usTrade},
		{"env-c6", "C6", mm(162, 114), isoMail},
		{"env-sq135", "135 mm square", mm(135, 135), euroTrade},
		{"env-sq5.75", "5 3/4 in square", inches(92, 92), usTrade},
		{"env-a7", "A7", inches(116, 84), usTrade},
		{"env-dl", "DL", mm(220, 110), isoMail},
		{"env-sq155", "155 mm square", mm(155, 155), euroTrade},
		{"env-10", "#10", inches(152, 66), usTrade},
		{"env-sq6.25", "6 1/4 in square", inches(100, 100), usTrade},
		{"env-a8", "A8", inches(130, 88), usTrade},
		{"env-a9", "A9", inches(140, 92), usTrade},
		{"env-c5", "C5", mm(229, 162), isoMail},
	}
}

// FormatByID returns a standard format.
func FormatByID(id string) (Format, error) {
	for _, f := range Formats() {
		if f.ID == id {
			return f, nil
		}
	}
	return Format{}, fmt.Errorf("there is no format %q; choose one that is listed", id)
}

// EnvelopeByID returns a standard envelope.
func EnvelopeByID(id string) (Envelope, error) {
	for _, e := range Envelopes() {
		if e.ID == id {
			return e, nil
		}
	}
	return Envelope{}, fmt.Errorf("there is no envelope %q; choose one that is listed, or type its inside size", id)
}

// FormatOf returns the standard format of a front, whichever way it lies.
func FormatOf(front length.Size) (f Format, ok bool) {
	for _, f := range Formats() {
		if f.Front == front || f.Front == front.Turned() {
			return f, true
		}
	}
	return Format{}, false
}
