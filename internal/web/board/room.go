package board

import (
	"embed"
	"html/template"

	"chromaqua/internal/web/page"
)

//go:embed *.html *.js
var files embed.FS

// Room is what the board brings to every page it stands on.
var Room = page.Room{Files: files, Funcs: template.FuncMap{"tone": Colours, "transparency": transparency}}
