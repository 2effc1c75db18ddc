package web

import "net/http"

func (s *Server) benchPDF(w http.ResponseWriter, r *http.Request) error { return nil }
