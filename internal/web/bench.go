package web

import (
	"bytes"
	"net/http"

	"chromaqua/core/panel"
	"chromaqua/internal/sheet"
)

// benchPDF sends the bench sheet at true size.
func (s *Server) benchPDF(w http.ResponseWriter, r *http.Request) error {
	rev, read, err := s.panelOf(r)
	if err != nil {
		return err
	}
	b := panel.Resolve(rev.Card, read.sheet)
	at, err := s.studioFor(r.Context(), "bench")
	if err != nil {
		return err
	}
	key := orderKey{revisionKey{rev.ID, rev.Seq}, at.benchKey}
	plan, err := s.orders.of(r.Context(), key, s.orders.plan(key, b, at.bench))
	if err != nil {
		return err
	}
	var buf bytes.Buffer
	doc := sheet.Bench{Board: b, Plan: plan.plan, Schedule: plan.schedule, Why: plan.why, Line: read.line, Made: rev.Made}
	if err := doc.Write(&buf); err != nil {
		return err
	}
	download(w, "application/pdf", rev.Card.Name, ", bench sheet.pdf")
	_, _ = w.Write(buf.Bytes())
	return nil
}
